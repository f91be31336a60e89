package dev.graphema.segments.column;

import java.util.Comparator;
import java.util.stream.IntStream;

/** The rows of the codes of a column that are rare, so that they are found without looking at all rows. Immutable. */
public final class RareRows {
    private static final int MOST_CODES = 32;

    /** All listed rows are at most one in this number. */
    private static final int SHARE = 16;

    /** By code; null for one that is not listed. */
    private final int[][] rows;

    private RareRows(int[][] rows) {
        this.rows = rows;
    }

    /**
     * Writes the rows of the rarest codes.
     *
     * @return false if no code is rare, or there are many codes
     */
    public static boolean write(Texts.Builder values, ByteWriter to) {
        int different = values.different();
        if (different < 2 || different > MOST_CODES) {
            return false;
        }
        int[] counts = new int[different];
        for (int i = 0; i < values.count(); i++) {
            counts[values.code(i)]++;
        }
        int left = values.count() / SHARE;
        boolean[] isListed = new boolean[different];
        int listed = 0;
        for (int code : IntStream.range(0, different)
                .boxed()
                .sorted(Comparator.comparingInt(code -> counts[code]))
                .mapToInt(code -> code)
                .toArray()) {
            left -= counts[code];
            if (left < 0) {
                break;
            }
            isListed[code] = true;
            listed++;
        }
        if (listed == 0) {
            return false;
        }
        to.putShort(listed);
        for (int code = 0; code < different; code++) {
            if (isListed[code]) {
                long[] rows = new long[counts[code]];
                int count = 0;
                for (int i = 0; i < values.count(); i++) {
                    if (values.code(i) == code) {
                        rows[count++] = i;
                    }
                }
                to.putShort(code).putInt(count);
                Numbers.write(rows, count, to);
            }
        }
        return true;
    }

    /**
     * Reads the rows.
     *
     * @param different the number of codes
     * @param count the number of all rows
     */
    public static RareRows read(ByteReader from, int different, int count) {
        int[][] rows = new int[different][];
        for (int left = from.getShort(); left > 0; left--) {
            int code = from.getShort();
            rows[code] = PackedNumbers.read(from, from.getInt()).allSmall(count);
        }
        return new RareRows(rows);
    }

    /** Returns the rows of a code in their order; null if it is not listed. Must not be changed. */
    public int[] rows(int code) {
        return rows[code];
    }

    /** Returns whether a code is listed. */
    public boolean isListed(int code) {
        return rows[code] != null;
    }
}
