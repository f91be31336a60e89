package dev.graphema.segments;

import dev.graphema.query.partial.ValueCounts;
import dev.graphema.segments.column.PackedNumbers;
import dev.graphema.trace.TraceId;
import java.io.IOException;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.function.IntToLongFunction;

/**
 * Counts the combinations of values of a group by their codes: each combination has a cell of an array. For one thread.
 */
final class CodeCounts {
    /** The most cells. */
    private static final int MOST = 1 << 16;

    /** The most cells for combinations and measured numbers. */
    private static final int MOST_MEASURED = 1 << 18;

    /** Added to the number of a cell for a code of no text: the result is negative. */
    private static final int NOWHERE = -(1 << 24);

    private final NameVector[] vectors;

    /** The measured values; null for none. */
    private final NameVector measured;

    private final ValueCounts counts;
    private final int[] plain;

    /** By cell, for sampled and measured events. */
    private final ValueCounts.Cell[] cells;

    private CodeCounts(NameVector[] vectors, NameVector measured, ValueCounts counts, int cells) {
        this.vectors = vectors;
        this.measured = measured;
        this.counts = counts;
        this.plain = new int[cells];
        this.cells = new ValueCounts.Cell[cells];
    }

    /**
     * Returns counts of a group.
     *
     * @param vectors the counted values
     * @param measured the measured values; null for none
     * @param events the number of events that are counted
     * @return null if there are too many combinations for that many events, or values without a code
     */
    static CodeCounts of(NameVector[] vectors, NameVector measured, ValueCounts counts, int events) {
        long cells = 1;
        for (NameVector vector : vectors) {
            cells *= vector.different() + 1;
            if (vector.hasNumbers() || cells > MOST || cells > 16L * events) {
                return null;
            }
        }
        for (NameVector vector : vectors) {
            for (int code = 0; code < vector.different(); code++) {
                if (vector.valueOf(code) == NameVector.NOT_HERE) {
                    return null;
                }
            }
        }
        return new CodeCounts(vectors, measured, counts, (int) cells);
    }

    /**
     * Returns the cell of a line.
     *
     * @return a negative number if only the complete event has its values
     */
    int cell(int line) {
        int cell = 0;
        for (NameVector vector : vectors) {
            int code = vector.code(line);
            if (code < NameVector.MISSING) {
                return -1;
            }
            cell = cell * (vector.different() + 1) + code + 1;
        }
        boolean isMeasurable = measured == null
                || measured.code(line) == NameVector.NUMBER
                || measured.value(line) != NameVector.NOT_HERE;
        return isMeasurable ? cell : -1;
    }

    /**
     * Counts the event of a line.
     *
     * @param trace null for none, and if the weight is 1
     */
    void add(int cell, int line, long weight, TraceId trace) {
        if (weight == 1) {
            plain[cell]++;
        } else {
            known(cell).add(weight, trace);
        }
        if (measured != null && measured.code(line) == NameVector.NUMBER) {
            known(cell).measure(measured.number(line), weight);
        } else if (measured != null) {
            known(cell).measure(measured.value(line), weight);
        }
    }

    private ValueCounts.Cell known(int cell) {
        if (cells[cell] == null) {
            cells[cell] = counts.cell(values(cell));
        }
        return cells[cell];
    }

    private List<Object> values(int cell) {
        Object[] values = new Object[vectors.length];
        int left = cell;
        for (int i = vectors.length - 1; i >= 0; i--) {
            int size = vectors[i].different() + 1;
            int code = left % size - 1;
            values[i] = code < 0 ? null : vectors[i].valueOf(code);
            left /= size;
        }
        return Arrays.asList(values);
    }

    /**
     * Counts all lines of a group, none of which is sampled, some at a time, so that neither their codes nor their numbers need
     * arrays.
     *
     * @param lines the number of lines
     * @return false if that must be done otherwise, because not each line has a text, or a whole number in a short range
     */
    boolean addGroup(int lines) throws IOException {
        int[][] cellOfStep = new int[vectors.length][];
        PackedNumbers[] packed = new PackedNumbers[vectors.length];
        int factor = 1;
        for (int i = vectors.length - 1; i >= 0; i--) {
            packed[i] = vectors[i].packed();
            if (packed[i] == null || packed[i].stepLimit() > PackedNumbers.MOST_STEPS) {
                return false;
            }
            cellOfStep[i] = cellOfStep(packed[i], vectors[i].different(), factor);
            factor *= vectors[i].different() + 1;
        }
        PackedNumbers numbers = measured == null ? null : measured.packed();
        boolean isShort = numbers != null
                && measured.hasNumbers()
                && numbers.stepLimit() <= Math.min(PackedNumbers.MOST_STEPS, MOST_MEASURED / plain.length);
        if (measured != null && !isShort) {
            return false;
        }
        int size = measured == null ? 1 : (int) numbers.stepLimit();
        int[] times = measured == null ? plain : new int[size * plain.length];
        int[] cellOfLine = new int[PackedNumbers.BLOCK];
        int[] steps = new int[PackedNumbers.BLOCK];
        for (int begin = 0; begin < lines; begin += PackedNumbers.BLOCK) {
            int count = Math.min(lines - begin, PackedNumbers.BLOCK);
            cells(begin, count, packed, cellOfStep, steps, cellOfLine);
            if (measured == null) {
                for (int i = 0; i < count; i++) {
                    times[cellOfLine[i]]++;
                }
                continue;
            }
            numbers.steps(begin, steps);
            for (int i = 0; i < count; i++) {
                times[cellOfLine[i] * size + steps[i]]++;
            }
        }
        if (measured != null) {
            addMeasured(times, size, numbers::ofStep);
        }
        return true;
    }

    /** Returns what the code of each step adds to the number of a cell. */
    private static int[] cellOfStep(PackedNumbers codes, int different, int factor) {
        int[] cells = new int[(int) codes.stepLimit()];
        for (int step = 0; step < cells.length; step++) {
            long code = codes.ofStep(step);
            // Not each step need be that of a code: others must not occur.
            cells[step] = code >= 0 && code < different ? (int) (code + 1) * factor : NOWHERE;
        }
        return cells;
    }

    /** Finds the cells of some lines. */
    private static void cells(int begin, int count, PackedNumbers[] codes, int[][] cellOfStep, int[] steps, int[] to) {
        Arrays.fill(to, 0);
        for (int i = 0; i < codes.length; i++) {
            codes[i].steps(begin, steps);
            int[] cells = cellOfStep[i];
            for (int line = 0; line < count; line++) {
                to[line] += cells[steps[line]];
            }
        }
        int lowest = 0;
        for (int line = 0; line < count; line++) {
            lowest = Math.min(lowest, to[line]);
        }
        if (lowest < 0) {
            throw new IndexOutOfBoundsException("a code of no text");
        }
    }

    /**
     * Counts lines, none of which is sampled.
     *
     * @return false if that must be done one by one, because only the complete event of a line has its values
     */
    boolean addAll(BitSet lines, int linesOfGroup) {
        for (NameVector vector : vectors) {
            boolean isInEvent =
                    vector.codes() != null && !vector.isTextOfEachLine() && lowest(vector.codes()) < NameVector.MISSING;
            if (vector.codes() == null || isInEvent) {
                return false;
            }
        }
        if (measured != null && (measured.codes() == null || lowest(measured.codes()) == NameVector.IN_EVENT)) {
            return false;
        }
        boolean isAll = lines.cardinality() == linesOfGroup;
        if (measured == null && isAll && vectors.length <= 2) {
            countAll(linesOfGroup);
            return true;
        }
        int[] cellOfLine = cells(linesOfGroup);
        int[] selected = numbers(lines, linesOfGroup);
        if (measured != null) {
            return measure(selected, cellOfLine);
        }
        for (int line : selected) {
            plain[cellOfLine[line]]++;
        }
        return true;
    }

    private static int[] numbers(BitSet lines, int linesOfGroup) {
        int[] numbers = new int[lines.cardinality()];
        if (numbers.length == linesOfGroup) {
            Arrays.setAll(numbers, line -> line);
            return numbers;
        }
        int count = 0;
        for (int line = lines.nextSetBit(0); line >= 0; line = lines.nextSetBit(line + 1)) {
            numbers[count++] = line;
        }
        return numbers;
    }

    /** Counts all lines by at most two names, without a list of their cells. */
    private void countAll(int lines) {
        if (vectors.length == 0) {
            plain[0] += lines;
            return;
        }
        int[] last = vectors[vectors.length - 1].codes();
        if (vectors.length == 1) {
            for (int line = 0; line < lines; line++) {
                plain[last[line] + 1]++;
            }
            return;
        }
        int[] first = vectors[0].codes();
        int size = vectors[1].different() + 1;
        for (int line = 0; line < lines; line++) {
            plain[(first[line] + 1) * size + last[line] + 1]++;
        }
    }

    private static int lowest(int[] codes) {
        int lowest = 0;
        for (int code : codes) {
            lowest = Math.min(lowest, code);
        }
        return lowest;
    }

    private int[] cells(int lines) {
        int[] cellOfLine = new int[lines];
        for (NameVector vector : vectors) {
            int[] codes = vector.codes();
            int size = vector.different() + 1;
            for (int line = 0; line < lines; line++) {
                cellOfLine[line] = cellOfLine[line] * size + codes[line] + 1;
            }
        }
        return cellOfLine;
    }

    /**
     * Counts lines and adds their measured whole numbers, equal ones of a combination at once; false if there are other values, or too
     * many.
     */
    private boolean measure(int[] lines, int[] cellOfLine) {
        long[] numbers = measured.numbers();
        int[] codes = measured.codes();
        long least = Long.MAX_VALUE;
        long most = Long.MIN_VALUE;
        for (int line : lines) {
            if (codes[line] == NameVector.NUMBER) {
                least = Math.min(least, numbers[line]);
                most = Math.max(most, numbers[line]);
            } else if (codes[line] != NameVector.MISSING) {
                return false;
            }
        }
        long first = least;
        int size = differentNumbers(least, most);
        if (numbers == null || size < 0) {
            return false;
        }
        int[] times = new int[size * plain.length];
        for (int line : lines) {
            if (codes[line] == NameVector.NUMBER) {
                times[cellOfLine[line] * size + (int) (numbers[line] - least)]++;
            } else {
                plain[cellOfLine[line]]++;
            }
        }
        addMeasured(times, size, step -> first + step);
        return true;
    }

    /** Returns how many numbers there are between two, or -1 if that are too many to have a cell each. */
    private int differentNumbers(long least, long most) {
        long range = most - least + 1;
        return range <= 0 || range > MOST_MEASURED / plain.length ? -1 : (int) range;
    }

    /**
     * Adds how often the numbers occurred.
     *
     * @param times by cell and number
     */
    private void addMeasured(int[] times, int size, IntToLongFunction number) {
        for (int i = 0; i < times.length; i++) {
            if (times[i] > 0) {
                plain[i / size] += times[i];
                known(i / size).measure(number.applyAsLong(i % size), times[i]);
            }
        }
    }

    /** Adds the events that were not sampled to the counts. */
    void finish() {
        for (int cell = 0; cell < plain.length; cell++) {
            if (plain[cell] > 0) {
                counts.cell(values(cell)).add(plain[cell]);
            }
        }
    }
}
