package dev.graphema.text;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * A growing, reusable buffer of bytes. Text is encoded as UTF-8 without intermediate objects; an unpaired surrogate
 * becomes U+FFFD. For one thread.
 */
public final class Utf8Buffer {
    private static final int REPLACEMENT = 0xFFFD;
    private static final byte[] DIGIT_PAIRS = digitPairs();
    private static final byte[] HEX_PAIRS = hexPairs();

    private byte[] bytes;
    private int length;

    public Utf8Buffer(int capacity) {
        bytes = new byte[Math.max(16, capacity)];
    }

    /** Returns the number of bytes. */
    public int length() {
        return length;
    }

    public void clear() {
        length = 0;
    }

    /** Removes all bytes after a length. */
    public void cutBack(int count) {
        length = Math.min(length, count);
    }

    /** Adds bytes. */
    public Utf8Buffer bytes(byte[] more, int from, int count) {
        room(count);
        System.arraycopy(more, from, bytes, length, count);
        length += count;
        return this;
    }

    /** Removes the first bytes. */
    public void dropFirst(int count) {
        System.arraycopy(bytes, count, bytes, 0, length - count);
        length -= count;
    }

    /** Adds one character below U+0080. */
    public Utf8Buffer ascii(char c) {
        room(1);
        bytes[length++] = (byte) c;
        return this;
    }

    /** Adds 64 bits as 16 hexadecimal digits, in lower case. */
    public Utf8Buffer hex(long bits) {
        room(16);
        int at = length;
        for (int shift = Long.SIZE - Byte.SIZE; shift >= 0; shift -= Byte.SIZE) {
            int pair = (int) (bits >>> shift & 0xFF) * 2;
            bytes[at++] = HEX_PAIRS[pair];
            bytes[at++] = HEX_PAIRS[pair + 1];
        }
        length = at;
        return this;
    }

    /** Adds a text in which every character is below U+0080. */
    @SuppressWarnings("deprecation") // the one way to copy a String's bytes without an array between; right for ASCII
    public Utf8Buffer ascii(String text) {
        int count = text.length();
        room(count);
        text.getBytes(0, count, bytes, length);
        length += count;
        return this;
    }

    /** Adds a text. */
    public Utf8Buffer text(String text) {
        for (int i = 0; i < text.length(); ) {
            int point = text.codePointAt(i);
            codePoint(point);
            i += Character.charCount(point);
        }
        return this;
    }

    /** Adds one code point. */
    public Utf8Buffer codePoint(int point) {
        room(4);
        if (point < 0x80) {
            bytes[length++] = (byte) point;
        } else if (point < 0x800) {
            bytes[length++] = (byte) (0xC0 | point >> 6);
            bytes[length++] = (byte) (0x80 | point & 0x3F);
        } else if (point < 0x10000) {
            int whole = point >= Character.MIN_SURROGATE && point <= Character.MAX_SURROGATE ? REPLACEMENT : point;
            bytes[length++] = (byte) (0xE0 | whole >> 12);
            bytes[length++] = (byte) (0x80 | whole >> 6 & 0x3F);
            bytes[length++] = (byte) (0x80 | whole & 0x3F);
        } else {
            bytes[length++] = (byte) (0xF0 | point >> 18);
            bytes[length++] = (byte) (0x80 | point >> 12 & 0x3F);
            bytes[length++] = (byte) (0x80 | point >> 6 & 0x3F);
            bytes[length++] = (byte) (0x80 | point & 0x3F);
        }
        return this;
    }

    /** Adds a whole number in decimal digits. */
    public Utf8Buffer number(long value) {
        if (value < 0) {
            if (value == Long.MIN_VALUE) {
                return ascii("-9223372036854775808");
            }
            ascii('-');
            value = -value;
        }
        int digits = digits(value);
        room(digits);
        length += digits;
        int at = length;
        while (value >= 100) {
            int pair = (int) (value % 100) * 2;
            value /= 100;
            bytes[--at] = DIGIT_PAIRS[pair + 1];
            bytes[--at] = DIGIT_PAIRS[pair];
        }
        if (value >= 10) {
            bytes[--at] = DIGIT_PAIRS[(int) value * 2 + 1];
            bytes[--at] = DIGIT_PAIRS[(int) value * 2];
        } else {
            bytes[--at] = (byte) ('0' + value);
        }
        return this;
    }

    /** Adds a non-negative number, padded with zeros to a number of digits. */
    public Utf8Buffer padded(long value, int digits) {
        for (int missing = digits - digits(value); missing > 0; missing--) {
            ascii('0');
        }
        return number(value);
    }

    public Utf8Buffer spaces(int count) {
        return repeated(" ", count);
    }

    /** Adds the text a number of times; not at all if that is negative. */
    public Utf8Buffer repeated(String text, int times) {
        if (times > 0) {
            int from = length;
            text(text);
            int size = length - from;
            int end = from + Math.multiplyExact(size, times);
            room(end - length);
            while (length < end) {
                int more = Math.min(length - from, end - length);
                System.arraycopy(bytes, from, bytes, length, more);
                length += more;
            }
        }
        return this;
    }

    /** Returns the bytes, to be read before anything else is written. */
    public ByteBuffer view() {
        return ByteBuffer.wrap(bytes, 0, length);
    }

    /** Returns the text that was added after a length. */
    public byte[] copy(int from) {
        return Arrays.copyOfRange(bytes, from, length);
    }

    public void writeTo(OutputStream stream) throws IOException {
        stream.write(bytes, 0, length);
    }

    @Override
    public String toString() {
        return new String(bytes, 0, length, StandardCharsets.UTF_8);
    }

    private void room(int more) {
        if (bytes.length - length < more) {
            bytes = Arrays.copyOf(bytes, Math.max(length + more, bytes.length * 2));
        }
    }

    private static int digits(long value) {
        int digits = 1;
        for (long limit = 10; digits < 19 && value >= limit; limit *= 10) {
            digits++;
        }
        return digits;
    }

    private static byte[] digitPairs() {
        byte[] pairs = new byte[200];
        for (int i = 0; i < 100; i++) {
            pairs[2 * i] = (byte) ('0' + i / 10);
            pairs[2 * i + 1] = (byte) ('0' + i % 10);
        }
        return pairs;
    }

    private static byte[] hexPairs() {
        byte[] digits = "0123456789abcdef".getBytes(StandardCharsets.US_ASCII);
        byte[] pairs = new byte[512];
        for (int i = 0; i < 256; i++) {
            pairs[2 * i] = digits[i >>> 4];
            pairs[2 * i + 1] = digits[i & 15];
        }
        return pairs;
    }
}
