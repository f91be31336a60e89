package dev.graphema.event;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.math.BigDecimal;
import java.nio.ByteOrder;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.Objects;

/**
 * Numbers, texts and fields in the form that {@link EventBytes} describes, in an array that grows. Reusable; for one
 * thread at a time.
 */
abstract class EncodedBytes {
    static final byte END = -1;
    static final int PLAIN = 0;
    static final int LATIN = 1;
    static final int WIDE = 2;
    static final int NULL = -1;
    static final VarHandle SHORT = MethodHandles.byteArrayViewVarHandle(short[].class, ByteOrder.BIG_ENDIAN);
    static final VarHandle INT = MethodHandles.byteArrayViewVarHandle(int[].class, ByteOrder.BIG_ENDIAN);
    static final VarHandle LONG = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.BIG_ENDIAN);

    private static final int ASCII = 0x80;
    private static final int LARGEST_LATIN = 0xFF;
    private static final int DELETE = 0x7F;

    /** A word of bytes of value 1. */
    private static final long EACH = 0x0101_0101_0101_0101L;

    private static final long HIGHEST = EACH * ASCII;

    /** The number of cached texts, and their longest length. */
    private static final int MOST_KNOWN = 1024;

    private static final int LONGEST_KNOWN = 32;

    /**
     * A cache of short texts that recur as the same objects, such as names of fields and constants, with their bytes;
     * indexed by hash. A text is added when it is seen for the second time in a row, so that texts which do not recur
     * allocate nothing. Threads write without synchronization; one that reads an old entry only encodes the text.
     */
    private static final KnownText[] KNOWN_TEXTS = new KnownText[MOST_KNOWN];

    private static final String[] SEEN_TEXTS = new String[MOST_KNOWN];

    byte[] bytes;
    int length;

    EncodedBytes(int capacity) {
        bytes = new byte[capacity];
    }

    /** A cached text. */
    static final class KnownText {
        final String text;

        final byte[] form;

        /** The {@linkplain SensitiveValues#id id} of a redaction that changes no field of this name, or 0. */
        long keptBy;

        /** @param form the bytes, which are not changed */
        KnownText(String text, byte[] form) {
            this.text = text;
            this.form = form;
        }

        /** Returns whether the redaction changes neither a field of this name nor the name. */
        boolean isNameKeptBy(SensitiveValues redaction, long id) {
            if (!redaction.keepsField(text)) {
                return false;
            }
            keptBy = id;
            return true;
        }
    }

    /** Writes a range of entries. */
    final void entries(Fields fields, int from, int to) {
        for (int i = from; i < to; i = fields.next(i)) {
            Kind kind = fields.kind(i);
            putByte((byte) kind.ordinal());
            text(fields.name(i));
            if (kind == Kind.GROUP || kind == Kind.LIST) {
                entries(fields, i + 1, fields.next(i));
                putByte(END);
            } else {
                value(kind, fields.bits(i), fields.ref(i));
            }
        }
    }

    /** Writes a value that is not a group or list, as {@link Fields} describe it. */
    final void value(Kind kind, long bits, Object ref) {
        switch (kind) {
            case TEXT -> text((String) ref);
            case INTEGER, REAL -> putLong(bits);
            case DECIMAL -> decimal((BigDecimal) ref);
            case BOOLEAN -> putByte((byte) bits);
            case TIME -> {
                Instant time = (Instant) ref;
                putLong(time.getEpochSecond());
                putInt(time.getNano());
            }
            case DURATION -> {
                Duration duration = (Duration) ref;
                putLong(duration.getSeconds());
                putInt(duration.getNano());
            }
            default -> {
                // the kind is the value
            }
        }
    }

    /** Writes bytes of this form. */
    final void bytes(byte[] entries, int count) {
        room(count);
        System.arraycopy(entries, 0, bytes, length, count);
        length += count;
    }

    /** Returns a copy of the bytes from an index on. */
    final byte[] copy(int from) {
        return Arrays.copyOfRange(bytes, from, length);
    }

    private void decimal(BigDecimal value) {
        byte[] digits = value.unscaledValue().toByteArray();
        putInt(value.scale());
        putInt(digits.length);
        bytes(digits, digits.length);
    }

    /** Writes a text, or null. */
    final void text(String text) {
        if (text == null) {
            putInt(NULL);
        } else if (text.length() <= LONGEST_KNOWN) {
            shortText(text);
        } else {
            encode(text);
        }
    }

    private void shortText(String text) {
        KnownText known = known(text);
        if (known != null) {
            bytes(known.form, known.form.length);
        } else {
            unknown(text);
        }
    }

    /** Returns the entry of a text in the cache, or null. */
    static KnownText known(String text) {
        KnownText known = KNOWN_TEXTS[place(text)];
        return known != null && known.text == text ? known : null;
    }

    private static int place(String text) {
        int hash = text.hashCode();
        return (hash ^ hash >>> 16) & MOST_KNOWN - 1;
    }

    /** Writes a text that is not in the cache. */
    final void unknown(String text) {
        int begin = length;
        encode(text);
        if (text.length() <= LONGEST_KNOWN) {
            int place = place(text);
            if (SEEN_TEXTS[place] == text) {
                KNOWN_TEXTS[place] = new KnownText(text, copy(begin));
            } else {
                SEEN_TEXTS[place] = text;
            }
        }
    }

    private void encode(String text) {
        int count = text.length();
        int bits = bits(text, count);
        if (bits > LARGEST_LATIN) {
            wide(text, count);
            return;
        }
        room(Integer.BYTES + count + Long.BYTES);
        int begin = length + Integer.BYTES;
        copy(text, count, begin);
        INT.set(bytes, length, count << 2 | (bits < ASCII && isPlain(begin, count) ? PLAIN : LATIN));
        length = begin + count;
    }

    @SuppressWarnings("deprecation") // the one way to copy a String's bytes without an array between; right for Latin-1
    private void copy(String text, int count, int at) {
        text.getBytes(0, count, bytes, at);
    }

    /** Returns all bits that the characters have. A loop without exits is compiled into a few instructions. */
    private static int bits(String text, int count) {
        int bits = 0;
        for (int i = 0; i < count; i++) {
            bits |= text.charAt(i);
        }
        return bits;
    }

    /** Returns whether the ASCII characters are the same in a JSON string. Eight at a time; there is room behind them. */
    private boolean isPlain(int from, int count) {
        int rest = count % Long.BYTES;
        int end = from + count - rest;
        for (int at = from; at < end; at += Long.BYTES) {
            if (!isPlain((long) LONG.get(bytes, at))) {
                return false;
            }
        }
        if (rest == 0) {
            return true;
        }
        long behind = -1L >>> rest * Byte.SIZE;
        return isPlain((long) LONG.get(bytes, end) & ~behind | EACH * 'a' & behind);
    }

    /** A subtraction sets the highest bit of an ASCII character that is smaller than what is subtracted. */
    private static boolean isPlain(long word) {
        long control = word - EACH * ' ';
        long quote = (word ^ EACH * '"') - EACH;
        long backslash = (word ^ EACH * '\\') - EACH;
        long delete = (word ^ EACH * DELETE) - EACH;
        return ((control | quote | backslash | delete) & HIGHEST) == 0;
    }

    private void wide(String text, int count) {
        room(Integer.BYTES + 2 * count);
        putInt(2 * count << 2 | WIDE);
        // Not by a charset, which would replace unpaired surrogates.
        for (int i = 0; i < count; i++) {
            SHORT.set(bytes, length, (short) text.charAt(i));
            length += Short.BYTES;
        }
    }

    final void putByte(byte value) {
        room(1);
        bytes[length++] = value;
    }

    final void putInt(int value) {
        room(Integer.BYTES);
        INT.set(bytes, length, value);
        length += Integer.BYTES;
    }

    final void putLong(long value) {
        room(Long.BYTES);
        LONG.set(bytes, length, value);
        length += Long.BYTES;
    }

    final void room(int count) {
        if (bytes.length - length < count) {
            Objects.checkFromIndexSize(length, count, Integer.MAX_VALUE); // or the event is too long for an array
            bytes = Arrays.copyOf(bytes, (int)
                    Math.min(Integer.MAX_VALUE - 8, Math.max(2L * bytes.length, length + (long) count)));
        }
    }
}
