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
    private static final long THOUSANDTHS = 1_000;

    /** Numbers up to this value with at most three decimals are added without {@link Double#toString}, which is slow. */
    private static final double MOST_BY_HAND = 1e6;

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

    /** Returns the array, with room for more bytes behind the length, to be written by the caller. */
    public byte[] array(int more) {
        room(more);
        return bytes;
    }

    /** Sets the length after bytes were written to the {@link #array}. */
    public void setLength(int count) {
        length = count;
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
        length = Digits.hex(bits, bytes, length);
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
        int count = text.length();
        room(count);
        int ascii = 0;
        for (char c; ascii < count && (c = text.charAt(ascii)) < 0x80; ascii++) {
            bytes[length + ascii] = (byte) c;
        }
        length += ascii;
        for (int i = ascii; i < count; ) {
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
        room(Digits.LONGEST_NUMBER);
        length = Digits.number(value, bytes, length);
        return this;
    }

    /** Adds a number with the text of {@link Double#toString}. */
    public Utf8Buffer real(double value) {
        if (Math.abs(value) < MOST_BY_HAND && Math.abs(value) >= 1) {
            long thousandths = Math.round(value * THOUSANDTHS);
            if ((double) thousandths / THOUSANDTHS == value) {
                return decimals(thousandths);
            }
        }
        return ascii(Double.toString(value));
    }

    /** Adds a number of thousandths, with one or more decimals and without trailing zeros. */
    private Utf8Buffer decimals(long thousandths) {
        if (thousandths < 0) {
            ascii('-');
        }
        long all = Math.abs(thousandths);
        int rest = (int) (all % THOUSANDTHS);
        number(all / THOUSANDTHS).ascii('.').ascii((char) ('0' + rest / 100));
        if (rest % 100 != 0) {
            ascii((char) ('0' + rest / 10 % 10));
            if (rest % 10 != 0) {
                ascii((char) ('0' + rest % 10));
            }
        }
        return this;
    }

    /** Adds a non-negative number, padded with zeros to a number of digits. */
    public Utf8Buffer padded(long value, int digits) {
        int all = Math.max(digits, Digits.digits(value));
        room(all);
        length = Digits.padded(value, all, bytes, length);
        return this;
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
}
