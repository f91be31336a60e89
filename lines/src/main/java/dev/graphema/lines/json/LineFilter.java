package dev.graphema.lines.json;

import dev.graphema.condition.Condition;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Locale;
import java.util.function.Predicate;

/**
 * Determines from the bytes of a line in Graphema JSON whether its event may match a condition, without reading it: if the
 * event has a text, its bytes are in the line. It may accept lines of other events, but never excludes a matching one.
 *
 * <p>Letters are compared ignoring case, and only ASCII texts are searched, which Graphema JSON does not escape.
 */
public interface LineFilter {
    /** Accepts every line. */
    LineFilter ALL = (bytes, from, to) -> true;

    boolean mayMatch(byte[] bytes, int from, int to);

    /**
     * Returns whether a line of several may match.
     *
     * @param mayContain whether one of them may contain a text in lower case, ignoring case
     */
    default boolean mayMatchAny(Predicate<byte[]> mayContain) {
        return true;
    }

    /** Returns whether, for lines in Graphema JSON, the filter of the condition accepts exactly those that match. */
    static boolean decides(Condition condition) {
        return condition.resolved().fold(new FilterDecides());
    }

    static LineFilter of(Condition condition) {
        return condition.resolved().fold(new FilterOfCondition());
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
        public boolean mayMatchAny(Predicate<byte[]> mayContain) {
            return mayContain.test(lower);
        }

        @Override
        public boolean mayMatch(byte[] bytes, int from, int to) {
            int last = lower.length - 1;
            for (int at = from; at + last < to; at += steps[bytes[at + last] & 0xFF]) {
                if (isHere(bytes, at)) {
                    return true;
                }
            }
            return false;
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
