package dev.graphema.sql.table;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/**
 * By what a database groups events that it counts. The first column of each group is whether its events must be examined one by one, the
 * last one is their number. Immutable.
 *
 * @param columns in their order
 * @param piece an expression for the number of the piece of time, which is the first value of a group; null for none
 * @param seconds how long a piece is
 */
record Grouping(List<GroupColumn> columns, String piece, long seconds) {
    private static final Sql SAMPLED = Sql.of(EventColumns.WEIGHT + " <> 1");
    private static final long SECOND = 1_000_000_000L;

    Grouping(List<GroupColumn> columns) {
        this(columns, null, 0);
    }

    /** Returns a grouping that also groups by pieces of time. */
    Grouping with(String newPiece, long newSeconds) {
        return new Grouping(columns, newPiece, newSeconds);
    }

    /** Returns a grouping that also groups by another column. */
    Grouping and(GroupColumn more) {
        return new Grouping(Stream.concat(columns.stream(), Stream.of(more)).toList(), piece, seconds);
    }

    /**
     * Returns the condition for events that must be examined.
     *
     * @param undecided those of which it is not known whether they are wanted
     */
    Sql apart(Sql undecided) {
        List<Sql> all = new ArrayList<>(List.of(undecided, SAMPLED));
        columns.forEach(column -> all.add(column.undecided()));
        return Sql.any(all.stream().distinct().toList());
    }

    /** Returns the columns of groups, without the number of events. */
    List<String> expressions(Sql undecided) {
        List<String> expressions = new ArrayList<>();
        expressions.add("case when " + apart(undecided).text() + " then 1 else 0 end");
        if (piece != null) {
            expressions.add(piece);
        }
        columns.forEach(column -> expressions.add(column.expression()));
        return expressions;
    }

    static boolean isApart(ReturnedRows group) throws IOException {
        return group.number(1) != 0;
    }

    /** Returns the values of a group: first the begin of its piece of time, in nanoseconds since 1970, if there are pieces. */
    List<Object> values(ReturnedRows group) throws IOException {
        List<Object> values = new ArrayList<>();
        if (piece != null) {
            values.add(group.number(2) * seconds * SECOND);
        }
        for (GroupColumn column : columns) {
            values.add(column.value().apply(group.text(values.size() + 2)));
        }
        return values;
    }

    /** Returns the number of events of a group. */
    long count(ReturnedRows group) throws IOException {
        return group.number(columns.size() + (piece == null ? 2 : 3));
    }
}
