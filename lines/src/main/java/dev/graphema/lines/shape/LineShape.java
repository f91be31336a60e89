package dev.graphema.lines.shape;

import com.google.re2j.Pattern;
import com.google.re2j.PatternSyntaxException;
import dev.graphema.lines.time.TimeRules;
import dev.graphema.query.part.TextPart;
import dev.graphema.text.Nearest;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;

/**
 * How the lines of a log are read, in addition to the common forms and names. Immutable.
 *
 * @param mapping the meaning of names that the user defines
 * @param pattern for lines of plain text, with named groups such as {@code (?P<time>\S+) (?P<level>\w+)
 *     (?P<message>.*)}; null for none
 * @param asked the names in a question: their values are also fields
 * @param times what is known of the times
 * @param parts parts of texts that have names of their own
 * @param inferred what the first lines of the log show
 */
public record LineShape(
        Map<String, Meaning> mapping,
        Pattern pattern,
        Set<String> asked,
        TimeRules times,
        List<TextPart> parts,
        InferredShape inferred) {
    /** The longest line that is read, in bytes. */
    public static final int MAX_LINE = 16 * 1024 * 1024;

    /** The common forms only. */
    public static final LineShape USUAL =
            new LineShape(Map.of(), null, Set.of(), TimeRules.USUAL, List.of(), InferredShape.NONE);

    /** In mappings, what names of fields are that would be recognised as attributes. */
    private static final String FIELD = "field";

    /** The user's names come before all others. */
    private static final int RANK = -1;

    public LineShape {
        mapping = Map.copyOf(mapping);
        asked = Set.copyOf(asked);
        parts = List.copyOf(parts);
        Objects.requireNonNull(times, "times");
        Objects.requireNonNull(inferred, "inferred");
    }

    /** Returns the shape with more names of a question. */
    public LineShape asking(Set<String> names) {
        if (asked.containsAll(names)) {
            return this;
        }
        Set<String> all = new HashSet<>(asked);
        all.addAll(names);
        return new LineShape(mapping, pattern, all, times, parts, inferred);
    }

    /** Returns the shape with what is known of the times. */
    public LineShape timed(TimeRules rules) {
        return new LineShape(mapping, pattern, asked, rules, parts, inferred);
    }

    /** Returns the shape with what the first lines of a log show. */
    public LineShape inferred(InferredShape shape) {
        return new LineShape(mapping, pattern, asked, times, parts, shape);
    }

    /**
     * Returns the shape with a mapping such as {@code time=when,level=sev,field=event}; {@code field} means that a name
     * is not an attribute.
     *
     * @throws IllegalArgumentException if it is invalid
     */
    public LineShape mapped(String text) {
        List<String> expected = new ArrayList<>(LineAttribute.texts());
        expected.add(FIELD);
        Map<String, Meaning> all = new LinkedHashMap<>(mapping);
        for (String part : text.split(",")) {
            int equals = part.indexOf('=');
            String what = (equals < 0 ? part : part.substring(0, equals)).strip();
            LineAttribute attribute = equals < 0 ? null : LineAttribute.of(what);
            boolean isField = equals >= 0 && what.equalsIgnoreCase(FIELD);
            if (attribute == null && !isField) {
                throw new IllegalArgumentException("\"" + part.strip() + "\" is not a valid mapping: expected one of "
                        + String.join(", ", expected) + ", then = and the name in the log"
                        + Nearest.hint(what, expected));
            }
            String name = part.substring(equals + 1).strip();
            all.put(name, isField ? Meaning.FIELD : new Meaning(attribute, RANK));
        }
        return new LineShape(all, pattern, asked, times, parts, inferred);
    }

    /** Returns the shape with the name of an attribute; of a name that is not one if the attribute is {@code field}. */
    LineShape named(String attribute, String name) {
        Map<String, Meaning> all = new LinkedHashMap<>(mapping);
        all.put(name, attribute.equals(FIELD) ? Meaning.FIELD : new Meaning(LineAttribute.of(attribute), RANK));
        return new LineShape(all, pattern, asked, times, parts, inferred);
    }

    /** Returns the shape with what another one defines beyond it. */
    public LineShape or(LineShape other) {
        Map<String, Meaning> all = new LinkedHashMap<>(other.mapping);
        all.putAll(mapping);
        Set<String> names = new HashSet<>(asked);
        names.addAll(other.asked);
        List<TextPart> both = new ArrayList<>(parts);
        both.addAll(other.parts);
        return new LineShape(
                all, pattern == null ? other.pattern : pattern, names, times.or(other.times), both, inferred);
    }

    /**
     * Returns the shape with a pattern for lines of plain text, in RE2 syntax.
     *
     * @throws IllegalArgumentException if it is invalid, or has no group for the time
     */
    public LineShape matching(String regex) {
        Pattern compiled;
        try {
            compiled = Pattern.compile(regex);
        } catch (PatternSyntaxException e) {
            throw new IllegalArgumentException(
                    "\"" + regex + "\" is not a valid pattern in RE2 syntax: " + e.getDescription(), e);
        }
        boolean hasTime = compiled.namedGroups().keySet().stream()
                .anyMatch(name -> meaning(name).attribute() == LineAttribute.TIME);
        if (!hasTime) {
            throw new IllegalArgumentException("\"" + regex
                    + "\" has no group for the time: expected one such as (?P<time>\\S+), and more such as (?P<level>\\w+)"
                    + " and (?P<message>.*)");
        }
        return new LineShape(mapping, compiled, asked, times, parts, inferred);
    }

    /**
     * Returns the shape with a part of a text that has a name of its own.
     *
     * @param definition as for {@link TextPart#parse}
     * @throws IllegalArgumentException if it is invalid
     */
    public LineShape part(String definition) {
        List<TextPart> all = new ArrayList<>(parts);
        all.add(TextPart.parse(definition));
        return new LineShape(mapping, pattern, asked, times, all, inferred);
    }

    /** Returns whether a name denotes a place of a line or a part of a text, which no event has as a field. */
    public boolean isComputed(String name) {
        return LinePlace.NAMES.contains(name)
                || !asking(Set.of(name)).askedParts().isEmpty();
    }

    /** Returns the parts of texts among the asked names, by their definitions or kinds. */
    public List<TextPart> askedParts() {
        List<TextPart> found = new ArrayList<>();
        for (String name : asked) {
            TextPart part = parts.stream()
                    .filter(each -> each.name().equals(name))
                    .findFirst()
                    .orElseGet(() -> TextPart.named(name));
            if (part != null) {
                found.add(part);
            }
        }
        return found;
    }

    /** Returns the meaning of a name: as the user defines, as the first lines show, or its common one. */
    public Meaning meaning(String name) {
        Meaning given = mapping.get(name);
        if (given == null) {
            given = inferred.names().get(name);
        }
        return given == null ? CommonNames.meaning(name) : given;
    }
}
