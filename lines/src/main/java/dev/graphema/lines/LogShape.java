package dev.graphema.lines;

import dev.graphema.lines.shape.LineForm;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.lines.shape.NameUse;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;

/**
 * How the lines of a log are read, as its first lines show. Immutable.
 *
 * @param file the log
 * @param lines the number of its first lines by their form, the most frequent form first
 * @param names the names in them, attributes first
 * @param shape the shape with which all its lines are read
 */
public record LogShape(Path file, Map<LineForm, Long> lines, List<NameUse> names, LineShape shape) {
    public LogShape {
        names = List.copyOf(names);
    }

    /** Returns whether there are lines whose values have names. */
    public boolean hasNames() {
        return lines.keySet().stream().anyMatch(LineForm::hasNames);
    }
}
