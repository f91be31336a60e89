package dev.graphema.segments;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Expression;
import dev.graphema.condition.Name;
import dev.graphema.event.Attribute;
import dev.graphema.query.Window;
import dev.graphema.query.row.ProjectedValues;
import dev.graphema.query.row.Projection;
import java.io.IOException;
import java.util.BitSet;
import java.util.List;

/**
 * Selects the lines of a group that match a condition. A part of it that depends on one name is tested once for each different
 * value; the results are combined as sets of lines. For one thread.
 */
final class RowSelection {
    private static final byte UNKNOWN = 0;
    private static final byte MATCHES = 1;
    private static final byte DIFFERS = 2;
    private static final byte UNSURE = 3;

    /** So many numbers are remembered with their results, as a power of two. */
    private static final int REMEMBERED = 1 << 10;

    private final GroupVectors vectors;

    /** The lines that the parts of the condition before have left. */
    private BitSet rows;

    /** Lines for which the current part must be tested with the complete event. */
    private BitSet unsure = new BitSet();

    private long testedTime;

    private RowSelection(GroupVectors vectors, BitSet rows) {
        this.vectors = vectors;
        this.rows = rows;
    }

    /**
     * Selected lines.
     *
     * @param lines the lines
     * @param unsure those of them for which the condition must be tested with the complete event
     */
    record Selected(BitSet lines, BitSet unsure) {}

    /**
     * Returns the lines that match a condition and are in a window.
     *
     * @param where a condition whose names are among those of the vectors
     */
    static Selected of(Condition where, Window during, GroupVectors vectors) throws IOException {
        RowSelection selection = new RowSelection(vectors, vectors.rows());
        selection.rows = selection.inWindow(during);
        BitSet incomplete = vectors.incomplete();
        BitSet unsure = (BitSet) incomplete.clone();
        boolean isDecided = true;
        for (Expression part : parts(where.expression())) {
            if (Projection.of(Condition.of(part)).isAll()) {
                isDecided = false; // it searches any text
            } else if (!selection.rows.isEmpty()) {
                selection.unsure = new BitSet();
                BitSet possible = selection.matching(part);
                possible.or(selection.unsure);
                possible.or(incomplete);
                selection.rows.and(possible);
                unsure.or(selection.unsure);
            }
        }
        unsure.and(selection.rows);
        return new Selected(selection.rows, isDecided ? unsure : selection.rows);
    }

    private static List<Expression> parts(Expression expression) {
        return expression instanceof Expression.And and
                ? and.parts().stream().flatMap(part -> parts(part).stream()).toList()
                : List.of(expression);
    }

    private BitSet inWindow(Window during) throws IOException {
        BitSet lines = (BitSet) rows.clone();
        if (!during.isAlways()) {
            long[] times = vectors.times();
            for (int line = lines.nextSetBit(0); line >= 0; line = lines.nextSetBit(line + 1)) {
                if (!during.contains(times[line])) {
                    lines.clear(line);
                }
            }
        }
        return lines;
    }

    private BitSet matching(Expression expression) throws IOException {
        if (expression instanceof Expression.And and) {
            BitSet all = (BitSet) rows.clone();
            for (Expression part : and.parts()) {
                all.and(matching(part));
            }
            return all;
        }
        if (expression instanceof Expression.Or or) {
            BitSet any = new BitSet();
            for (Expression part : or.parts()) {
                any.or(matching(part));
            }
            return any;
        }
        if (expression instanceof Expression.Not not) {
            BitSet others = (BitSet) rows.clone();
            others.andNot(matching(not.part()));
            return others;
        }
        if (expression instanceof Expression.Everything) {
            return (BitSet) rows.clone();
        }
        Condition part = Condition.of(expression);
        Name name = part.names().iterator().next();
        boolean isOfEvent = name.attribute() == Attribute.TIME || name.attribute() == Attribute.WEIGHT;
        return isOfEvent ? ofEvents(part, name) : ofValues(part, name);
    }

    private BitSet ofEvents(Condition part, Name name) throws IOException {
        BitSet lines = new BitSet();
        ProjectedValues single = new ProjectedValues(Projection.of(List.of(name)), () -> testedTime);
        long[] times = vectors.times();
        long[] weights = vectors.weights();
        for (int line = rows.nextSetBit(0); line >= 0; line = rows.nextSetBit(line + 1)) {
            single.clear();
            testedTime = times[line];
            single.weight(weights.length == 0 ? 1 : Math.max(1, weights[line]));
            lines.set(line, part.matches(single.values()));
        }
        return lines;
    }

    private BitSet ofValues(Condition part, Name name) throws IOException {
        NameVector vector = vectors.vector(name);
        Tested tested = new Tested(part, name, vector.different());
        BitSet lines = new BitSet();
        for (int line = rows.nextSetBit(0); line >= 0; line = rows.nextSetBit(line + 1)) {
            int code = vector.code(line);
            byte result = switch (code) {
                case NameVector.MISSING -> tested.missing();
                case NameVector.IN_EVENT -> UNSURE;
                case NameVector.NUMBER -> tested.number(vector.number(line));
                default -> tested.code(code, vector);
            };
            if (result == MATCHES) {
                lines.set(line);
            } else if (result == UNSURE) {
                unsure.set(line);
            }
        }
        return lines;
    }

    /** The results of a part of a condition by value. */
    private static final class Tested {
        private final Condition part;
        private final ProjectedValues single;
        private final byte[] byCode;
        private final long[] numbers = new long[REMEMBERED];
        private final byte[] byNumber = new byte[REMEMBERED];
        private byte ofMissing;

        Tested(Condition part, Name name, int different) {
            this.part = part;
            this.single = new ProjectedValues(Projection.of(List.of(name)), () -> 0);
            this.byCode = new byte[different];
        }

        byte missing() {
            if (ofMissing == UNKNOWN) {
                ofMissing = result(null);
            }
            return ofMissing;
        }

        byte code(int code, NameVector vector) {
            if (byCode[code] == UNKNOWN) {
                byCode[code] = result(vector.valueOf(code));
            }
            return byCode[code];
        }

        byte number(long number) {
            int place = (int) (number * 0x9E3779B97F4A7C15L >>> 54);
            if (byNumber[place] == UNKNOWN || numbers[place] != number) {
                numbers[place] = number;
                byNumber[place] = result(number);
            }
            return byNumber[place];
        }

        private byte result(Object value) {
            if (value == NameVector.NOT_HERE) {
                return UNSURE;
            }
            single.clear();
            single.array()[0] = value;
            boolean isUsual = GroupVectors.set(single, single.names().get(0), value);
            return !isUsual ? UNSURE : part.matches(single.values()) ? MATCHES : DIFFERS;
        }
    }
}
