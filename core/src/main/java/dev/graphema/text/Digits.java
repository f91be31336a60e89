package dev.graphema.text;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;

/** Writes numbers as ASCII digits into arrays that have enough room. Each method returns the index behind the last digit. */
public final class Digits {
    /** The most characters of {@link #number}. */
    public static final int LONGEST_NUMBER = 20;

    private static final byte[] PAIRS = pairs();
    private static final short[] HEX_PAIRS = hexPairs();
    private static final long[] POWERS = powers();
    private static final VarHandle SHORT = MethodHandles.byteArrayViewVarHandle(short[].class, ByteOrder.BIG_ENDIAN);
    private static final byte[] LEAST = Long.toString(Long.MIN_VALUE).getBytes(StandardCharsets.US_ASCII);

    private Digits() {}

    /** Writes a whole number in decimal digits. */
    public static int number(long value, byte[] to, int at) {
        if (value >= 0) {
            return natural(value, digits(value), to, at);
        }
        if (value == Long.MIN_VALUE) {
            System.arraycopy(LEAST, 0, to, at, LEAST.length);
            return at + LEAST.length;
        }
        to[at] = '-';
        return natural(-value, digits(-value), to, at + 1);
    }

    /** Writes a non-negative number, padded with zeros to a number of digits, which it must not exceed. */
    public static int padded(long value, int digits, byte[] to, int at) {
        return natural(value, digits, to, at);
    }

    /** Writes 64 bits as 16 hexadecimal digits, in lower case. */
    public static int hex(long bits, byte[] to, int at) {
        int next = at;
        for (int shift = Long.SIZE - Byte.SIZE; shift >= 0; shift -= Byte.SIZE) {
            SHORT.set(to, next, HEX_PAIRS[(int) (bits >>> shift & 0xFF)]);
            next += Short.BYTES;
        }
        return next;
    }

    /** Returns the number of decimal digits of a non-negative number. */
    public static int digits(long value) {
        int most = (Long.SIZE - Long.numberOfLeadingZeros(value | 1)) * 1233 >> 12; // 1233 / 4096 is about log10(2)
        return (value | 1) >= POWERS[most] ? most + 1 : most;
    }

    private static int natural(long value, int digits, byte[] to, int at) {
        int end = at + digits;
        int place = end;
        long rest = value;
        while (place - at >= 2) {
            int pair = (int) (rest % 100) * 2;
            rest /= 100;
            to[--place] = PAIRS[pair + 1];
            to[--place] = PAIRS[pair];
        }
        if (place > at) {
            to[at] = (byte) ('0' + rest % 10);
        }
        return end;
    }

    private static byte[] pairs() {
        byte[] pairs = new byte[200];
        for (int i = 0; i < 100; i++) {
            pairs[2 * i] = (byte) ('0' + i / 10);
            pairs[2 * i + 1] = (byte) ('0' + i % 10);
        }
        return pairs;
    }

    private static short[] hexPairs() {
        byte[] digits = "0123456789abcdef".getBytes(StandardCharsets.US_ASCII);
        short[] pairs = new short[256];
        for (int i = 0; i < 256; i++) {
            pairs[i] = (short) (digits[i >>> 4] << Byte.SIZE | digits[i & 15]);
        }
        return pairs;
    }

    private static long[] powers() {
        long[] powers = new long[19];
        powers[0] = 1;
        for (int i = 1; i < powers.length; i++) {
            powers[i] = 10 * powers[i - 1];
        }
        return powers;
    }
}
