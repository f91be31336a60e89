package dev.graphema.query.part;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import com.google.re2j.PatternSyntaxException;
import dev.graphema.condition.Name;
import dev.graphema.event.EventValues;
import java.util.Locale;
import java.util.Objects;

/**
 * A part of a text that has a name and can be used wherever a field can. The part of a field by its kind has a name without
 * being defined: {@code message.shape}, {@code path.path}, {@code referer.host}, {@code message.word}. Immutable.
 */
public final class TextPart {
    /** Kinds of parts. */
    public enum Kind {
        /** The {@linkplain TextShape shape} of the text. */
        SHAPE,
        /** The path of a URL or path, without its query. */
        PATH,
        /** The host of a URL or address. */
        HOST,
        /** The first word. */
        WORD,
        /** The number of characters (code points). */
        LENGTH,
        /** How often a pattern is found. */
        COUNT
    }

    private static final String COUNT = "count:";

    private final String name;
    private final Name of;
    private final Kind kind;
    private final Pattern pattern;

    private TextPart(String name, Name of, Kind kind, Pattern pattern) {
        this.name = name;
        this.of = of;
        this.kind = kind;
        this.pattern = pattern;
    }

    /** Returns the part that a name denotes by its end, such as {@code message.shape}; null for none. */
    public static TextPart named(String name) {
        int dot = name.lastIndexOf('.');
        Kind kind = dot <= 0 ? null : kind(name.substring(dot + 1));
        return kind == null || kind == Kind.COUNT
                ? null
                : new TextPart(name, Name.of(name.substring(0, dot)), kind, null);
    }

    /**
     * Parses a definition such as {@code lane=message:lane (\S+)}, {@code page=path:path} or {@code
     * losses=message:count:lost}: the name, the field, and a kind, or a pattern in RE2 syntax, whose first group is the
     * part, or {@code count:} and a pattern.
     *
     * @throws IllegalArgumentException if it is invalid
     */
    public static TextPart parse(String definition) {
        int equals = definition.indexOf('=');
        int colon = definition.indexOf(':', equals + 1);
        if (equals < 1 || colon < equals + 2 || colon == definition.length() - 1) {
            throw new IllegalArgumentException(
                    "\"" + definition + "\" is not a valid part: expected a name, =, a field, :"
                            + " and shape, path, host, word, length, a pattern, or count: and a pattern, as in"
                            + " 'lane=message:lane (\\S+)'");
        }
        String how = definition.substring(colon + 1);
        boolean isCount = how.startsWith(COUNT);
        Kind kind = isCount ? Kind.COUNT : kind(how);
        if (kind == Kind.COUNT && how.length() <= COUNT.length()) {
            throw new IllegalArgumentException(
                    "\"" + definition
                            + "\" does not define what is counted: expected count: and a pattern, as in 'losses=message:count:lost'");
        }
        Name of = Name.of(definition.substring(equals + 1, colon).strip());
        String regex = isCount ? how.substring(COUNT.length()) : how;
        try {
            String name = definition.substring(0, equals).strip();
            return new TextPart(name, of, kind, kind == null || isCount ? Pattern.compile(regex) : null);
        } catch (PatternSyntaxException e) {
            throw new IllegalArgumentException(
                    "\"" + regex + "\" is not a valid pattern in RE2 syntax: " + e.getDescription(), e);
        }
    }

    private static Kind kind(String text) {
        for (Kind kind : Kind.values()) {
            if (kind.name().toLowerCase(Locale.ROOT).equals(text)) {
                return kind;
            }
        }
        return null;
    }

    /** Returns the name of the part. */
    public String name() {
        return name;
    }

    /** Returns the name of the text of which it is a part. */
    public Name of() {
        return of;
    }

    /** Returns the kind of the part; null if it is what a pattern finds. */
    public Kind kind() {
        return kind;
    }

    /** Returns the part of an event; null if there is none. */
    public String value(EventValues event) {
        Object value = of.value(event);
        return value instanceof String text ? value(text) : null;
    }

    /** Returns the part of a text; null if there is none. */
    public String value(String text) {
        if (kind == null) {
            Matcher matcher = pattern.matcher(text);
            return matcher.find() ? matcher.group(matcher.groupCount() > 0 ? 1 : 0) : null;
        }
        return switch (kind) {
            case SHAPE -> TextShape.of(text);
            case PATH -> path(text);
            case HOST -> host(text);
            case WORD -> word(text);
            case LENGTH -> Integer.toString(text.codePointCount(0, text.length()));
            case COUNT -> Integer.toString(count(text));
        };
    }

    private int count(String text) {
        Matcher matcher = pattern.matcher(text);
        int count = 0;
        while (matcher.find()) {
            count++;
        }
        return count;
    }

    private static String path(String text) {
        int from = behindScheme(text);
        int begin = from == 0 ? 0 : text.indexOf('/', from);
        if (begin < 0) {
            return "/";
        }
        int end = begin;
        while (end < text.length() && text.charAt(end) != '?' && text.charAt(end) != '#') {
            end++;
        }
        return text.substring(begin, end);
    }

    private static String host(String text) {
        int from = behindScheme(text);
        int end = from;
        while (end < text.length() && "/?# ".indexOf(text.charAt(end)) < 0) {
            end++;
        }
        String authority =
                text.substring(text.lastIndexOf('@', end - 1) >= from ? text.lastIndexOf('@', end - 1) + 1 : from, end);
        int bracket = authority.indexOf(']');
        int colon = authority.indexOf(':', Math.max(0, bracket));
        boolean isIpv6 = bracket < 0 && colon >= 0 && authority.indexOf(':', colon + 1) >= 0;
        String host = colon < 0 || isIpv6 ? authority : authority.substring(0, colon);
        return host.isEmpty() ? null : host;
    }

    private static int behindScheme(String text) {
        int scheme = text.indexOf("://");
        return scheme < 0 ? 0 : scheme + 3;
    }

    private static String word(String text) {
        String trimmed = text.strip();
        int end = 0;
        while (end < trimmed.length() && trimmed.charAt(end) > ' ') {
            end++;
        }
        return end == 0 ? null : trimmed.substring(0, end);
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof TextPart part && part.toString().equals(toString());
    }

    @Override
    public int hashCode() {
        return Objects.hash(name, of, kind);
    }

    /** Returns the definition, as {@link #parse} expects it. */
    @Override
    public String toString() {
        String how = kind == null ? "" : kind.name().toLowerCase(Locale.ROOT);
        return name + "=" + of + ":" + how + (kind == Kind.COUNT ? ":" : "")
                + (pattern == null ? "" : pattern.pattern());
    }
}
