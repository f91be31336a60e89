package dev.graphema.segments.column;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** How often each pair of texts of two columns occurs in a group, by weight. */
public final class PairCounts {
    private static final int MOST = 1024;
    private static final int MOST_WEIGHTS = 16;
    private static final int MISSING = -1;

    private PairCounts() {}

    /**
     * A pair.
     *
     * @param first the bytes of the text of the first column
     * @param second those of the second column; null if it has no values
     * @param weight the weight of each line
     * @param count in how many lines they occur
     */
    @SuppressWarnings("ArrayRecordComponent") // the arrays are only read
    public record Pair(byte[] first, byte[] second, long weight, int count) {}

    /**
     * Writes the pairs of columns with a value in each line.
     *
     * @param second null if it has no values
     * @param weights the weight of each line
     * @return false if there are too many
     */
    public static boolean write(Texts.Builder first, Texts.Builder second, long[] weights, ByteWriter to) {
        int size = second == null ? 1 : second.different();
        if ((long) first.different() * size > MOST) {
            return false;
        }
        Map<Long, int[]> byWeight = new TreeMap<>();
        int[] counts = null;
        long weight = 0;
        for (int i = 0; i < first.count(); i++) {
            if (counts == null || weights[i] != weight) {
                weight = weights[i];
                counts = byWeight.computeIfAbsent(weight, missing -> new int[first.different() * size]);
                if (byWeight.size() > MOST_WEIGHTS) {
                    return false;
                }
            }
            counts[first.code(i) * size + (second == null ? 0 : second.code(i))]++;
        }
        to.putInt((int) byWeight.values().stream()
                .flatMapToInt(Arrays::stream)
                .filter(count -> count > 0)
                .count());
        byWeight.forEach((each, ofWeight) -> {
            for (int i = 0; i < ofWeight.length; i++) {
                if (ofWeight[i] > 0) {
                    text(first, i / size, to);
                    if (second == null) {
                        to.putInt(MISSING);
                    } else {
                        text(second, i % size, to);
                    }
                    to.putLong(each).putInt(ofWeight[i]);
                }
            }
        });
        return true;
    }

    private static void text(Texts.Builder of, int code, ByteWriter to) {
        byte[] text = of.text(code);
        to.putInt(text.length).put(text);
    }

    /** Reads the pairs. */
    public static List<Pair> read(ByteReader from) {
        List<Pair> pairs = new ArrayList<>();
        for (int left = from.getInt(); left > 0; left--) {
            byte[] first = from.get(from.getInt());
            int length = from.getInt();
            pairs.add(new Pair(first, length == MISSING ? null : from.get(length), from.getLong(), from.getInt()));
        }
        return pairs;
    }
}
