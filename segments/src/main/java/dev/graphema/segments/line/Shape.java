package dev.graphema.segments.line;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;

/**
 * What the lines of many events have in common: names, their order and nesting, and the values true, false and null. A line is
 * the literals with a value after each but the last.
 *
 * @param literals the bytes before, between and after the values, one more than there are columns
 * @param columns the index of the column of each value
 * @param constants the paths of the values that are literals, and these: true, false or null as text
 * @param groups the paths of objects within the line
 */
public record Shape(List<byte[]> literals, int[] columns, Map<String, String> constants, List<String> groups) {
    /** Returns the length of the literals together. */
    public int length() {
        return literals.stream().mapToInt(literal -> literal.length).sum();
    }

    @Override
    public String toString() {
        StringBuilder text = new StringBuilder();
        for (int i = 0; i < literals.size(); i++) {
            text.append(new String(literals.get(i), StandardCharsets.UTF_8)).append(i < columns.length ? "#" : "");
        }
        return text.toString();
    }
}
