package dev.graphema.segments;

import dev.graphema.query.partial.ValueCounts;
import dev.graphema.trace.TraceId;
import java.util.Arrays;
import java.util.List;

/**
 * Counts the combinations of values of a group by their codes: each combination has a cell of an array. For one thread.
 */
final class CodeCounts {
    /** The most cells. */
    private static final int MOST = 1 << 16;

    private final NameVector[] vectors;
    private final ValueCounts counts;
    private final int[] plain;

    /** By cell, for sampled events. */
    private final ValueCounts.Cell[] cells;

    private CodeCounts(NameVector[] vectors, ValueCounts counts, int cells) {
        this.vectors = vectors;
        this.counts = counts;
        this.plain = new int[cells];
        this.cells = new ValueCounts.Cell[cells];
    }

    /**
     * Returns counts of a group.
     *
     * @param vectors the counted values
     * @param events the number of events that are counted
     * @return null if there are too many combinations for that many events, or values without a code
     */
    static CodeCounts of(NameVector[] vectors, ValueCounts counts, int events) {
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
        return new CodeCounts(vectors, counts, (int) cells);
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
        return cell;
    }

    /** Counts an event that was not sampled. */
    void add(int cell) {
        plain[cell]++;
    }

    /** Counts a sampled event. */
    void add(int cell, long weight, TraceId trace) {
        if (cells[cell] == null) {
            cells[cell] = counts.cell(values(cell));
        }
        cells[cell].add(weight, trace);
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

    /** Adds the events that were not sampled to the counts. */
    void finish() {
        for (int cell = 0; cell < plain.length; cell++) {
            if (plain[cell] > 0) {
                counts.cell(values(cell)).add(plain[cell]);
            }
        }
    }
}
