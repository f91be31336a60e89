package dev.graphema.query.line;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/** A word as it stands in a line, with the quote that ends it. Immutable. */
final class NameBytes {
    private final String name;
    private final byte[] bytes;
    private final long word;
    private final long mask;

    /** The name with its quotes and the colon. */
    private final byte[] whole;

    private final long wholeWord;
    private final long wholeMask;

    NameBytes(String name) {
        this.name = name;
        this.bytes = (name + '"').getBytes(StandardCharsets.UTF_8);
        this.whole = ('"' + name + "\":").getBytes(StandardCharsets.UTF_8);
        this.word = firstWord(bytes);
        this.mask = firstMask(bytes);
        this.wholeWord = firstWord(whole);
        this.wholeMask = firstMask(whole);
    }

    /** The first eight bytes, with zeros behind them when there are fewer. */
    private static long firstWord(byte[] bytes) {
        return Bytes.word(Arrays.copyOf(bytes, Math.max(Long.BYTES, bytes.length)), 0);
    }

    /** Which bits of the first word are of those bytes. */
    private static long firstMask(byte[] bytes) {
        return bytes.length >= Long.BYTES ? -1 : (1L << bytes.length * Byte.SIZE) - 1;
    }

    String name() {
        return name;
    }

    /** How many bytes it has, with the quote. */
    int length() {
        return bytes.length;
    }

    /** Whether it stands there. @param end where the line ends */
    boolean isAt(byte[] line, int at, int end) {
        if (at + Long.BYTES > end) {
            return Bytes.areAt(bytes, line, at, end);
        }
        return (Bytes.word(line, at) & mask) == word
                && (bytes.length <= Long.BYTES || Bytes.areAt(bytes, line, at, end));
    }

    /**
     * Where the value begins whose name it is, the last one if there are several, or -1, in an object that has no other one within: since quotes within a
     * text stand behind backslashes, one behind a comma or brace begins a name or a text, and only a name is followed by a colon.
     *
     * @param from behind the brace of the object
     * @param to where it ends; eight bytes of the array lie behind
     */
    int valueIn(byte[] line, int from, int to) {
        for (int i = to - whole.length; i >= from; i--) {
            if ((Bytes.word(line, i) & wholeMask) == wholeWord
                    && (line[i - 1] == ',' || line[i - 1] == '{')
                    && Bytes.areAt(whole, line, i, to)) {
                return i + whole.length;
            }
        }
        return -1;
    }
}
