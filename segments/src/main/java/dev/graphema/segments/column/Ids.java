package dev.graphema.segments.column;

/** Ids of 16 or 32 lower-case hexadecimal digits as 8 or 16 bytes. */
public final class Ids {
    /** The most bytes of an id. */
    public static final int MOST_BYTES = 16;

    private static final byte[] DIGITS = {'0', '1', '2', '3', '4', '5', '6', '7', '8', '9', 'a', 'b', 'c', 'd', 'e', 'f'
    };

    private Ids() {}

    /** Returns whether the digits of an id may contain a text in lower case. */
    public static boolean mayContain(byte[] text) {
        for (byte letter : text) {
            if (Character.digit(letter, 16) < 0) {
                return false;
            }
        }
        return text.length <= 2 * MOST_BYTES;
    }

    /**
     * Packs digits.
     *
     * @param to receives the bytes, from the first one on
     * @return their number
     */
    public static int pack(byte[] digits, int from, int end, byte[] to) {
        int count = 0;
        for (int i = from; i < end; i += 2) {
            to[count++] = (byte) (digit(digits[i]) << 4 | digit(digits[i + 1]));
        }
        return count;
    }

    private static int digit(byte letter) {
        return letter <= '9' ? letter - '0' : letter - 'a' + 10;
    }

    /**
     * Writes the digits of an id.
     *
     * @return where they end
     */
    public static int unpack(byte[] id, int from, int end, byte[] to, int at) {
        int next = at;
        for (int i = from; i < end; i++) {
            to[next++] = DIGITS[id[i] >> 4 & 0xF];
            to[next++] = DIGITS[id[i] & 0xF];
        }
        return next;
    }

    /** Returns eight bytes as a number, the first one as its highest. */
    public static long bits(byte[] id, int from) {
        long bits = 0;
        for (int i = from; i < from + Long.BYTES; i++) {
            bits = bits << Byte.SIZE | id[i] & 0xFF;
        }
        return bits;
    }
}
