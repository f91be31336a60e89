package dev.graphema.lines.json;

import dev.graphema.condition.Condition;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Locale;

/**
 * Determines from the bytes of a line whether its event may match a condition, without reading it: if the event has a
 * text, its bytes are in the line. It may accept lines of other events, but never excludes a matching one.
 *
 * <p>Letters are compared ignoring case, and only ASCII texts are searched. A line with a backslash may contain any
 * text, because JSON can escape any character; Graphema JSON never escapes ASCII letters. Levels are filtered only in
 * Graphema JSON.
 */
public interface LineFilter {
    /** Accepts every line. */
    LineFilter ALL = (bytes, from, to) -> true;

    boolean mayMatch(byte[] bytes, int from, int to);

    /** Returns whether, for lines in Graphema JSON, the filter of the condition accepts exactly those that match. */
    static boolean decides(Condition condition) {
        return condition.resolved().fold(new FilterDecides());
    }

    static LineFilter of(Condition condition) {
        return condition.resolved().fold(new FilterOfCondition());
    }

    /** Returns whether texts in the line may be escaped. */
    private static boolean mayHideText(byte[] bytes, int from, int to) {
        boolean isOwn = to - from > LinePrefix.LEVEL_AT && LinePrefix.hasLevel(bytes, from);
        return !isOwn && Bytes.indexOf('\\', bytes, from, to) >= 0;
    }

    /**
     * Searches a text that is so long that one of its eight-byte words is at one of the examined positions, wherever it
     * is in the line. A table of hashes excludes most other words. Letters are compared without the bit of their case.
     */
    final class LongTextFilter implements LineFilter {
        /** From this length on, steps are longer than a word. */
        static final int SHORTEST = 2 * Long.BYTES + 1;

        private static final int TABLE_BITS = 12;

        private final TextFilter exactly;

        /** The words of the text by position, and a table of their hashes. */
        private final long[] words;

        private final boolean[] marks = new boolean[1 << TABLE_BITS];

        LongTextFilter(String text) {
            exactly = new TextFilter(text);
            words = new long[text.length() - Long.BYTES + 1];
            byte[] bytes = text.getBytes(StandardCharsets.US_ASCII);
            for (int i = 0; i < words.length; i++) {
                words[i] = Bytes.word(bytes, i) | Bytes.CASE_BITS;
                marks[mark(words[i])] = true;
            }
        }

        private static int mark(long word) {
            return (int) (word * TextCache.SPREAD >>> Long.SIZE - TABLE_BITS);
        }

        @Override
        public boolean mayMatch(byte[] bytes, int from, int to) {
            for (int at = from; at + Long.BYTES <= to; at += words.length) {
                long word = Bytes.word(bytes, at) | Bytes.CASE_BITS;
                if (marks[mark(word)] && isAround(word, bytes, at, from, to)) {
                    return true;
                }
            }
            return mayHideText(bytes, from, to);
        }

        private boolean isAround(long word, byte[] bytes, int at, int from, int to) {
            for (int i = 0; i < words.length; i++) {
                int start = at - i;
                if (words[i] == word
                        && start >= from
                        && start + exactly.lower.length <= to
                        && exactly.isHere(bytes, start)) {
                    return true;
                }
            }
            return false;
        }
    }

    /** Searches a text, ignoring case, by the algorithm of R. N. Horspool (1980). */
    final class TextFilter implements LineFilter {
        private final byte[] lower;
        private final byte[] upper;
        private final int[] steps = new int[256];

        TextFilter(String text) {
            lower = text.toLowerCase(Locale.ROOT).getBytes(StandardCharsets.US_ASCII);
            upper = text.toUpperCase(Locale.ROOT).getBytes(StandardCharsets.US_ASCII);
            Arrays.fill(steps, lower.length);
            for (int i = 0; i < lower.length - 1; i++) {
                steps[lower[i]] = lower.length - 1 - i;
                steps[upper[i]] = lower.length - 1 - i;
            }
        }

        @Override
        public boolean mayMatch(byte[] bytes, int from, int to) {
            int last = lower.length - 1;
            for (int at = from; at + last < to; at += steps[bytes[at + last] & 0xFF]) {
                if (isHere(bytes, at)) {
                    return true;
                }
            }
            return mayHideText(bytes, from, to);
        }

        private boolean isHere(byte[] bytes, int at) {
            for (int i = lower.length - 1; i >= 0; i--) {
                byte b = bytes[at + i];
                if (b != lower[i] && b != upper[i]) {
                    return false;
                }
            }
            return true;
        }
    }
}
