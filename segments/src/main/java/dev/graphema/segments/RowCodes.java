package dev.graphema.segments;

import dev.graphema.query.partial.CellCounts;

/** The rows of a time map by the codes of their values in a group: each combination is looked up once. For one thread. */
final class RowCodes {
    /** The most combinations. */
    private static final int MOST = 1 << 18;

    private final NameVector[] vectors;
    private final NameVector levels;
    private final CellCounts counts;

    /** By combination: the row and 2, because it can be -1; 0 as long as it is not known. */
    private final int[] rows;

    /** By code of the level, beginning with that of a missing one: the kind. */
    private final int[] kinds;

    private RowCodes(NameVector[] vectors, NameVector levels, CellCounts counts, int combinations) {
        this.vectors = vectors;
        this.levels = levels;
        this.counts = counts;
        this.rows = new int[combinations];
        this.kinds = new int[levels.different() + 1];
        for (int code = 0; code < levels.different(); code++) {
            kinds[code + 1] = CellCounts.kind(levels.valueOf(code));
        }
    }

    /**
     * Returns the codes of a group; null if there are too many combinations, or values without a code.
     *
     * @param vectors the values that make a source
     */
    static RowCodes of(NameVector[] vectors, NameVector levels, CellCounts counts) {
        long combinations = 1;
        for (NameVector vector : vectors) {
            combinations *= vector.different() + 1;
            if (vector.hasNumbers() || combinations > MOST || hasOthers(vector)) {
                return null;
            }
        }
        return levels.hasNumbers() || hasOthers(levels)
                ? null
                : new RowCodes(vectors, levels, counts, (int) combinations);
    }

    private static boolean hasOthers(NameVector vector) {
        for (int code = 0; code < vector.different(); code++) {
            if (vector.valueOf(code) == NameVector.NOT_HERE) {
                return true;
            }
        }
        return false;
    }

    /**
     * Counts the event of a line.
     *
     * @return false if only the complete event has its values
     */
    boolean add(int line, long time, long weight) {
        int combination = 0;
        for (NameVector vector : vectors) {
            int code = vector.code(line);
            if (code < NameVector.MISSING) {
                return false;
            }
            combination = combination * (vector.different() + 1) + code + 1;
        }
        int level = levels.code(line);
        if (level < NameVector.MISSING) {
            return false;
        }
        if (rows[combination] == 0) {
            rows[combination] = counts.row(values(combination)) + 2;
        }
        counts.add(time, rows[combination] - 2, kinds[level + 1], weight);
        return true;
    }

    private Object[] values(int combination) {
        Object[] values = new Object[vectors.length];
        int left = combination;
        for (int i = vectors.length - 1; i >= 0; i--) {
            int size = vectors[i].different() + 1;
            int code = left % size - 1;
            values[i] = code < 0 ? null : vectors[i].valueOf(code);
            left /= size;
        }
        return values;
    }
}
