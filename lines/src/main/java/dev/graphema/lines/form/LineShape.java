package dev.graphema.lines.form;

import com.google.re2j.Pattern;
import com.google.re2j.PatternSyntaxException;
import dev.graphema.text.Nearest;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;

/**
 * How the lines of a log are read, in addition to the common forms. Immutable.
 *
 * @param mapping the meaning of further names
 * @param pattern for lines of plain text, with named groups such as {@code (?P<time>\S+) (?P<level>\w+)
 *     (?P<message>.*)}; null for none
 * @param asked the names in a question: their values are also fields
 */
public record LineShape(Map<String, LineAttribute> mapping, Pattern pattern, Set<String> asked) {
    /** The longest line that is read, in bytes. */
    public static final int MAX_LINE = 16 * 1024 * 1024;

    /** The common forms only. */
    public static final LineShape USUAL = new LineShape(Map.of(), null, Set.of());

    public LineShape {
        mapping = Map.copyOf(mapping);
        asked = Set.copyOf(asked);
    }

    /** Returns the shape with more names of a question. */
    public LineShape asking(Set<String> names) {
        if (asked.containsAll(names)) {
            return this;
        }
        Set<String> all = new HashSet<>(asked);
        all.addAll(names);
        return new LineShape(mapping, pattern, all);
    }

    /**
     * Returns the shape with a mapping such as {@code time=when,level=sev}.
     *
     * @throws IllegalArgumentException if it is invalid
     */
    public LineShape mapped(String text) {
        Map<String, LineAttribute> all = new LinkedHashMap<>(mapping);
        for (String part : text.split(",")) {
            int equals = part.indexOf('=');
            LineAttribute role = equals < 0
                    ? null
                    : LineAttribute.of(part.substring(0, equals).strip());
            if (role == null) {
                throw new IllegalArgumentException("\"" + part.strip() + "\" is not a valid mapping: expected one of "
                        + String.join(", ", LineAttribute.texts()) + ", then = and the name in the log"
                        + Nearest.hint(
                                equals < 0
                                        ? part.strip()
                                        : part.substring(0, equals).strip(),
                                LineAttribute.texts()));
            }
            all.put(part.substring(equals + 1).strip(), role);
        }
        return new LineShape(all, pattern, asked);
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
        boolean tellsTime = compiled.namedGroups().keySet().stream()
                .map(name -> LineAttribute.meaning(name, mapping))
                .anyMatch(meaning -> meaning != null && meaning.role() == LineAttribute.TIME);
        if (!tellsTime) {
            throw new IllegalArgumentException("\"" + regex
                    + "\" has no group for the time: expected one such as (?P<time>\\S+), and more such as (?P<level>\\w+)"
                    + " and (?P<message>.*)");
        }
        return new LineShape(mapping, compiled, asked);
    }
}
