package dev.graphema.query.line;

import dev.graphema.condition.Condition;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Locale;

/**
 * Tells of the bytes of a line whether it can hold an event that meets a condition, without reading it: an event that is to
 * have a text must have its bytes in the line. It never rules out a line that does; a line that it lets through still has
 * to be read and asked.
 *
 * <p>Letters are compared in any case, and only texts of plain ASCII are looked for. A line with a backslash may have any text, since JSON may write any
 * character as an escape; but our own form never writes plain ASCII so. Of levels, only lines in our own form are ruled out: other programs call
 * them otherwise.
 */
public interface LineFilter {
    /** Lets every line through. */
    LineFilter ALL = (bytes, from, to) -> true;

    boolean mayMatch(byte[] bytes, int from, int to);

    /** Whether, for lines in Graphema JSON, the filter of the condition lets through exactly those that match. */
    static boolean decides(Condition condition) {
        return condition.resolved().fold(new FilterDecides());
    }

    static LineFilter of(Condition condition) {
        return condition.resolved().fold(new FilterOfCondition());
    }

    /** Whether texts may stand in the line otherwise than as they are. */
    private static boolean mayHideText(byte[] bytes, int from, int to) {
        boolean isOwn = to - from > OwnForm.LEVEL_AT && OwnForm.hasLevel(bytes, from);
        return !isOwn && Bytes.indexOf('\\', bytes, from, to) >= 0;
    }

    /**
     * Looks for one text that is so long that of the words of eight bytes at every so many places one lies within it wherever it stands: words that are
     * none of the text's are told by one look into a table. Letters are compared without the bit that tells their cases apart.
     */
    final class LongTextFilter implements LineFilter {
        /** From here on, steps are longer than a word. */
        static final int SHORTEST = 2 * Long.BYTES + 1;

        private static final int TABLE_BITS = 12;

        private final TextFilter exactly;

        /** The text's words, by where they begin, and a mark for each at a place that its bits say. */
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

    /** Looks for one text in any case: as R. N. Horspool does (1980), from the text's end and in steps as long as what stands there allows. */
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
