package dev.graphema.format;

import dev.graphema.event.FieldVisitor;
import dev.graphema.event.Fields;
import dev.graphema.text.AsciiSet;
import dev.graphema.text.Decimals;
import dev.graphema.text.Durations;
import dev.graphema.text.Escapes;
import dev.graphema.text.Utf8Buffer;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.StringJoiner;

/**
 * Formats fields as {@code name=value} pairs, with dotted names for groups. A text is quoted if it could be read as
 * several values; nothing in it can break the line or control a terminal.
 */
public final class FieldText implements FieldVisitor {
    /** A formatted field. */
    public record Pair(String name, String value) {
        /** Returns the length of {@code name=value}. */
        int width() {
            return name.length() + 1 + value.length();
        }
    }

    /** The characters that make a value be quoted. */
    private static final String QUOTED = " \"\\=,[]{}";

    /** The characters of texts that are never quoted. */
    static final AsciiSet PLAIN = AsciiSet.printableExcept(QUOTED);

    private final List<Pair> pairs = new ArrayList<>();
    private final Deque<String> groups = new ArrayDeque<>();
    private StringBuilder list;
    private int listDepth;

    private final boolean quotes;

    /** @param quotes whether texts outside lists are quoted if they could be read as several values */
    FieldText(boolean quotes) {
        this.quotes = quotes;
    }

    /** Returns the formatted pairs in order. */
    public static List<Pair> of(Fields fields) {
        FieldText text = new FieldText(true);
        fields.visit(text);
        return text.pairs;
    }

    /** Returns the text of a field without its name, and of a group with those within it; null if there is none. */
    static String of(Fields fields, String path) {
        FieldText text = new FieldText(false);
        fields.visit(text);
        StringJoiner shown = new StringJoiner(" ");
        for (Pair pair : text.pairs) {
            if (pair.name().equals(path)) {
                shown.add(pair.value());
            } else if (pair.name().startsWith(path + ".")) {
                shown.add(pair.name().substring(path.length() + 1) + "=" + pair.value());
            }
        }
        return shown.length() == 0 ? null : shown.toString();
    }

    /** Returns the pairs that were visited so far. */
    List<Pair> pairs() {
        return pairs;
    }

    boolean isInList() {
        return list != null;
    }

    /**
     * Returns a text as a value: unchanged if it can be read as one value only, else in quotes, with backslashes before
     * quotes and backslashes, and with escapes.
     */
    public static String quoted(String value) {
        if (isPlain(value)) {
            return value;
        }
        Utf8Buffer quoted = new Utf8Buffer(value.length() + 16).ascii('"');
        for (int i = 0; i < value.length(); ) {
            int point = value.codePointAt(i);
            if (point == '"' || point == '\\') {
                quoted.ascii('\\');
            }
            Escapes.visible(point, quoted);
            i += Character.charCount(point);
        }
        return quoted.ascii('"').toString();
    }

    private static boolean isPlain(String value) {
        if (PLAIN.containsAll(value)) {
            return !value.isEmpty();
        }
        for (int i = 0; i < value.length(); i++) {
            char c = value.charAt(i);
            if (!Escapes.isHarmless(c) || Character.isSurrogate(c) || QUOTED.indexOf(c) >= 0) {
                return false;
            }
        }
        return !value.isEmpty();
    }

    @Override
    public void text(String name, String value) {
        add(name, quotes || list != null ? quoted(value) : value);
    }

    @Override
    public void integer(String name, long value) {
        add(name, Long.toString(value));
    }

    @Override
    public void real(String name, double value) {
        add(name, Double.toString(value));
    }

    @Override
    public void decimal(String name, BigDecimal value) {
        add(name, Decimals.text(value));
    }

    @Override
    public void bool(String name, boolean value) {
        add(name, Boolean.toString(value));
    }

    @Override
    public void time(String name, Instant value) {
        add(name, value.toString());
    }

    @Override
    public void duration(String name, Duration value) {
        add(name, Durations.text(value).replace(" ", ""));
    }

    @Override
    public void nothing(String name) {
        add(name, "null");
    }

    @Override
    public void beginGroup(String name) {
        if (list != null) {
            open('{');
        } else {
            groups.addLast(name);
        }
    }

    @Override
    public void endGroup() {
        if (list != null) {
            close('}');
        } else {
            groups.removeLast();
        }
    }

    @Override
    public void beginList(String name) {
        if (list == null) {
            list = new StringBuilder();
            groups.addLast(name);
        }
        open('[');
    }

    @Override
    public void endList() {
        close(']');
        if (listDepth == 0) {
            String value = list.toString();
            list = null;
            add(groups.removeLast(), value);
        }
    }

    private void open(char bracket) {
        separate();
        list.append(bracket);
        listDepth++;
    }

    private void close(char bracket) {
        list.append(bracket);
        listDepth--;
    }

    private void separate() {
        char last = list.length() == 0 ? '[' : list.charAt(list.length() - 1);
        if (last != '[' && last != '{') {
            list.append(", ");
        }
    }

    void add(String name, String value) {
        if (list != null) {
            separate();
            list.append(name == null ? value : Escapes.visible(name) + "=" + value);
            return;
        }
        pairs.add(new Pair(path(groups, name), value));
    }

    /** Returns the printable path of a field in groups. */
    static String path(Deque<String> groups, String name) {
        if (groups.isEmpty()) {
            return Escapes.visible(name);
        }
        StringBuilder path = new StringBuilder();
        for (String group : groups) {
            path.append(group).append('.');
        }
        return Escapes.visible(path.append(name).toString());
    }
}
