package dev.graphema.segments;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Expression;
import dev.graphema.lines.json.LineFilter;
import dev.graphema.segments.column.Ids;
import dev.graphema.segments.column.TextParts;
import dev.graphema.segments.column.Texts;
import dev.graphema.segments.file.Directory;
import dev.graphema.segments.line.Column;
import dev.graphema.segments.line.Kind;
import dev.graphema.segments.line.Shape;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Excludes lines without a text that any text of the event may contain: it is searched once in each different value of a group.
 * For one thread.
 */
final class PhraseTest {
    private final GroupReader group;

    /** By column: whether the text may be in the value of a code; null for a column without texts. */
    private final boolean[][] possible;

    /** By shape: the columns of which a value may contain the text. */
    private final int[][] columns;

    private PhraseTest(GroupReader group, boolean[][] possible, int[][] columns) {
        this.group = group;
        this.possible = possible;
        this.columns = columns;
    }

    /**
     * Returns the test of a group.
     *
     * @return null if the condition does not require such a text, or it can be in values that are not searched
     */
    static PhraseTest of(Condition where, GroupReader group, Directory directory) throws IOException {
        LineFilter filter = filter(where.expression());
        boolean hasTimes = directory.columns().stream()
                .anyMatch(column -> column.kind() == Kind.TIME && column.path().indexOf(Column.SEPARATOR) >= 0);
        if (filter == LineFilter.ALL || hasTimes) {
            return null;
        }
        boolean[][] possible = new boolean[directory.columns().size()][];
        for (int column = 0; column < possible.length; column++) {
            possible[column] = searched(column, directory.columns().get(column).kind(), group, filter);
        }
        int[][] columns = new int[directory.shapes().size()][];
        for (int shape = 0; shape < columns.length; shape++) {
            columns[shape] = columns(directory.shapes().get(shape), possible);
        }
        return new PhraseTest(group, possible, columns);
    }

    /** Returns a filter of the parts that search any text, of which an event must match all. */
    private static LineFilter filter(Expression expression) {
        if (expression instanceof Expression.Phrase) {
            return LineFilter.of(Condition.of(expression));
        }
        if (!(expression instanceof Expression.And and)) {
            return LineFilter.ALL;
        }
        List<LineFilter> filters = new ArrayList<>();
        and.parts().forEach(part -> filters.add(filter(part)));
        filters.removeIf(filter -> filter == LineFilter.ALL);
        // The texts of several parts can be in different values, so one of them must do.
        return filters.isEmpty() ? LineFilter.ALL : filters.get(0);
    }

    /** Returns by code whether a text of a column may match; null if none does. */
    private static boolean[] searched(int column, Kind kind, GroupReader group, LineFilter filter) throws IOException {
        if (kind.isNumber() || kind == Kind.ID && !filter.mayMatchAny(Ids::mayContain)) {
            return null;
        }
        TextParts parts = group.parts(column);
        Texts texts = parts != null && !filter.mayMatchAny(parts::mayContain) ? null : group.texts(column);
        return texts == null ? null : searched(texts, kind == Kind.ID, filter);
    }

    private static boolean[] searched(Texts texts, boolean isId, LineFilter filter) {
        boolean[] found = new boolean[texts.different()];
        boolean isAny = false;
        byte[] digits = new byte[2 * Ids.MOST_BYTES];
        for (int code = 0; code < found.length; code++) {
            found[code] = isId
                    ? filter.mayMatch(digits, 0, Ids.unpack(texts.bytes(), texts.from(code), texts.to(code), digits, 0))
                    : filter.mayMatch(texts.bytes(), texts.from(code), texts.to(code));
            isAny |= found[code];
        }
        return isAny ? found : null;
    }

    private static int[] columns(Shape shape, boolean[][] possible) {
        return Arrays.stream(shape.columns())
                .filter(column -> possible[column] != null)
                .toArray();
    }

    /** Returns whether no line of the group has the text. */
    boolean excludesAll() {
        return Arrays.stream(possible).allMatch(column -> column == null);
    }

    /** Returns whether the current line, of this shape, does not have the text. */
    boolean excludes(int shape) throws IOException {
        for (int column : columns[shape]) {
            if (possible[column][group.texts(column).code(group.index(column))]) {
                return false;
            }
        }
        return true;
    }
}
