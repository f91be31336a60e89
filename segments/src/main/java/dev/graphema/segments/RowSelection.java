package dev.graphema.segments;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Expression;
import dev.graphema.condition.Name;
import dev.graphema.condition.Resolved;
import dev.graphema.condition.WholeNumbers;
import dev.graphema.event.Attribute;
import dev.graphema.query.Window;
import dev.graphema.query.row.ProjectedValues;
import dev.graphema.query.row.Projection;
import dev.graphema.segments.column.RareRows;
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

    /** Up to this number, all different values of a group are tested before its lines are read. */
    private static final int FEW_VALUES = 256;

    private static final int MOST_TESTED_AT_ONCE = 2048;

    /** How many numbers are remembered with their results, as a power of two. */
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
        NameVector vector = vectors.unloaded(name);
        Tested tested = new Tested(part, name, vector);
        if (tested.excludesAll()) {
            return new BitSet();
        }
        BitSet rare = tested.isShort() ? ofRareValues(tested, vector) : null;
        if (rare != null) {
            rare.and(rows);
            return rare;
        }
        int[] present = tested.ofMissing() == DIFFERS ? vector.present() : null;
        if (present != null) {
            return ofPresent(present, tested);
        }
        int count = rows.cardinality();
        vector.load(vectors.areFew(count));
        if (count == vectors.lines() && vector.codes() != null && !vector.hasNumbers() && tested.isShort()) {
            return ofAllLines(vector.codes(), tested);
        }
        if (tested.numbers != null && vector.hasNumbersOnly()) {
            BitSet lines = linesOf(tested.numbers, vector.numbers());
            lines.and(rows);
            return lines;
        }
        BitSet lines = new BitSet(rows.size());
        for (int line = rows.nextSetBit(0); line >= 0; line = rows.nextSetBit(line + 1)) {
            byte result = tested.result(line);
            if (result != DIFFERS) {
                (result == MATCHES ? lines : unsure).set(line);
            }
        }
        return lines;
    }

    /** Returns the lines if all matching values, or all others, are rare, so that no other line need be read; null if not. */
    private static BitSet ofRareValues(Tested tested, NameVector vector) throws IOException {
        RareRows rare = vector.rareRows();
        if (rare == null) {
            return null;
        }
        byte ofUsual = UNKNOWN;
        for (int code = 0; code < vector.differentTexts(); code++) {
            byte result = tested.ofCode(code);
            boolean isUsual = !rare.isListed(code);
            if (result == UNSURE || isUsual && ofUsual != UNKNOWN && ofUsual != result) {
                return null;
            }
            ofUsual = isUsual ? result : ofUsual;
        }
        BitSet lines = new BitSet(vector.lines());
        lines.set(0, vector.lines(), ofUsual == MATCHES);
        for (int code = 0; code < vector.differentTexts(); code++) {
            byte result = tested.ofCode(code);
            if (rare.isListed(code) && result != ofUsual) {
                for (int line : rare.rows(code)) {
                    lines.set(line, result == MATCHES);
                }
            }
        }
        return lines;
    }

    /** Returns the lines among those with a value. */
    private BitSet ofPresent(int[] present, Tested tested) {
        BitSet lines = new BitSet();
        for (int line : present) {
            byte result = rows.get(line) ? tested.result(line) : DIFFERS;
            if (result != DIFFERS) {
                (result == MATCHES ? lines : unsure).set(line);
            }
        }
        return lines;
    }

    /** Returns the lines by the codes of all lines of the group. */
    private BitSet ofAllLines(int[] codes, Tested tested) {
        byte[] results = tested.byCodeFromLowest();
        unsure.or(linesOf(UNSURE, results, codes));
        return linesOf(MATCHES, results, codes);
    }

    /** Returns the lines whose codes, counted from the lowest one, have a result. */
    private static BitSet linesOf(byte wanted, byte[] results, int[] codes) {
        long[] isWanted = new long[results.length];
        boolean isAny = false;
        for (int i = 0; i < results.length; i++) {
            isWanted[i] = results[i] == wanted ? 1 : 0;
            isAny |= results[i] == wanted;
        }
        if (!isAny) {
            return new BitSet();
        }
        long[] words = new long[(codes.length + Long.SIZE - 1) / Long.SIZE];
        for (int i = 0; i < words.length; i++) {
            int from = i * Long.SIZE;
            int count = Math.min(Long.SIZE, codes.length - from);
            long word = 0;
            for (int j = 0; j < count; j++) {
                word |= isWanted[codes[from + j] - NameVector.LOWEST] << j;
            }
            words[i] = word;
        }
        return BitSet.valueOf(words);
    }

    /** Returns the lines whose numbers are among these. */
    private static BitSet linesOf(WholeNumbers wanted, long[] numbers) {
        long[] words = new long[(numbers.length + Long.SIZE - 1) / Long.SIZE];
        for (int i = 0; i < words.length; i++) {
            int from = i * Long.SIZE;
            int count = Math.min(Long.SIZE, numbers.length - from);
            long word = 0;
            for (int j = 0; j < count; j++) {
                long number = numbers[from + j];
                word |= (number >= wanted.least() && number <= wanted.most() ? 1L : 0L) << j;
            }
            words[i] = word;
        }
        return BitSet.valueOf(words);
    }

    /** The results of a part of a condition by value. */
    private static final class Tested {
        private final Condition part;
        private final ProjectedValues single;
        private final NameVector vector;
        private final byte[] byCode;
        private final long[] known = new long[REMEMBERED];
        private final byte[] byNumber = new byte[REMEMBERED];
        private byte ofMissing;

        /** The numbers that match; null if they must be tested. */
        private final WholeNumbers numbers;

        /** The id with which all are compared; null if the condition is another one. */
        private final byte[] id;

        Tested(Condition part, Name name, NameVector vector) {
            this.part = part;
            this.single = new ProjectedValues(Projection.of(List.of(name)), () -> 0);
            this.vector = vector;
            this.byCode = new byte[vector.different()];
            this.id = RequiredTrace.equal(part.expression(), name);
            this.numbers = name.attribute() == null ? numbers(part.resolved()) : null;
        }

        private static WholeNumbers numbers(Resolved part) {
            if (part instanceof Resolved.Written written) {
                return numbers(written.part());
            }
            boolean isOfRange =
                    part instanceof Resolved.HasValue value && !value.accepted().acceptsNumeral();
            return isOfRange
                    ? WholeNumbers.in(((Resolved.HasValue) part).accepted().numbers())
                    : null;
        }

        /** Returns whether no value of the group matches; false if finding out would take long. */
        boolean excludesAll() {
            boolean isQuick = id != null || vector.differentTexts() <= FEW_VALUES;
            if (!isQuick || !vector.hasTextsOnly() || ofMissing() != DIFFERS) {
                return false;
            }
            for (int code = 0; code < vector.differentTexts(); code++) {
                if (ofCode(code) != DIFFERS) {
                    return false;
                }
            }
            return true;
        }

        /** Returns whether the group has few different values. */
        boolean isShort() {
            return byCode.length <= MOST_TESTED_AT_ONCE;
        }

        /** Returns the result of each code that lines can have, beginning with that of the lowest one. */
        byte[] byCodeFromLowest() {
            int possible = vector.possible();
            byte otherwise = vector.isTextOfEachLine() ? DIFFERS : UNSURE;
            byte[] results = new byte[possible - NameVector.LOWEST];
            for (int code = NameVector.LOWEST; code < possible; code++) {
                results[code - NameVector.LOWEST] = code == NameVector.MISSING
                        ? ofMissing()
                        : code < 0 ? otherwise : byCode[code] == UNKNOWN ? ofCode(code) : byCode[code];
            }
            return results;
        }

        byte result(int line) {
            int code = vector.code(line);
            if (code >= 0) {
                byte known = byCode[code];
                return known == UNKNOWN ? ofCode(code) : known;
            }
            return switch (code) {
                case NameVector.MISSING -> ofMissing();
                case NameVector.NUMBER -> ofNumber(vector.number(line));
                default -> UNSURE;
            };
        }

        private byte ofMissing() {
            if (ofMissing == UNKNOWN) {
                ofMissing = result(null);
            }
            return ofMissing;
        }

        private byte ofCode(int code) {
            // Most ids are others, and need not become objects.
            boolean isOther = id != null && vector.isOtherId(code, id);
            byCode[code] = isOther ? DIFFERS : result(vector.valueOf(code));
            return byCode[code];
        }

        private byte ofNumber(long number) {
            if (numbers != null) {
                return numbers.contains(number) ? MATCHES : DIFFERS;
            }
            int place = (int) (number * 0x9E3779B97F4A7C15L >>> 54);
            if (byNumber[place] == UNKNOWN || known[place] != number) {
                known[place] = number;
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
