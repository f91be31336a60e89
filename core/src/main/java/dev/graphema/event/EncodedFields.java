package dev.graphema.event;

import static dev.graphema.event.EncodedBytes.INT;
import static dev.graphema.event.EncodedBytes.LONG;
import static dev.graphema.event.EncodedBytes.SHORT;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;

/** Reads texts and fields in the form of {@link EventBytes} in an array. */
final class EncodedFields {
    private static final Kind[] KINDS = Kind.values();
    private static final int FORM = 3;

    private EncodedFields() {}

    /** Returns fields as an object that the caller may change. The parameters are those of {@link #visit}. */
    static Fields fields(byte[] bytes, int from, int end) {
        Reader reader = new Reader(bytes);
        visit(bytes, from, end, reader);
        return reader.to;
    }

    /**
     * Passes fields to a visitor.
     *
     * @param from the index of the first byte
     * @param end the index behind all bytes that may be read
     * @return the index behind the fields
     */
    static int visit(byte[] bytes, int from, int end, EventRecord.Visitor visitor) {
        int at = from;
        byte kind;
        while ((kind = bytes[at++]) != EncodedBytes.END) {
            long name = text(bytes, at, end);
            at = behind(name, at);
            switch (KINDS[kind]) {
                case TEXT -> {
                    long value = text(bytes, at, end);
                    visitor.text(name, value);
                    at = behind(value, at);
                }
                case INTEGER -> {
                    visitor.integer(name, (long) LONG.get(bytes, at));
                    at += Long.BYTES;
                }
                case REAL -> {
                    visitor.real(name, Double.longBitsToDouble((long) LONG.get(bytes, at)));
                    at += Long.BYTES;
                }
                case DECIMAL -> {
                    int length = (int) INT.get(bytes, at + Integer.BYTES);
                    int digits = at + 2 * Integer.BYTES;
                    visitor.decimal(
                            name, new BigDecimal(new BigInteger(bytes, digits, length), (int) INT.get(bytes, at)));
                    at = digits + length;
                }
                case BOOLEAN -> visitor.bool(name, bytes[at++] != 0);
                case TIME -> {
                    visitor.time(name, Instant.ofEpochSecond((long) LONG.get(bytes, at), (int)
                            INT.get(bytes, at + Long.BYTES)));
                    at += Long.BYTES + Integer.BYTES;
                }
                case DURATION -> {
                    visitor.duration(name, Duration.ofSeconds((long) LONG.get(bytes, at), (int)
                            INT.get(bytes, at + Long.BYTES)));
                    at += Long.BYTES + Integer.BYTES;
                }
                case NOTHING -> visitor.nothing(name);
                case GROUP -> {
                    visitor.beginGroup(name);
                    at = visit(bytes, at, end, visitor);
                    visitor.endGroup();
                }
                case LIST -> {
                    visitor.beginList(name);
                    at = visit(bytes, at, end, visitor);
                    visitor.endList();
                }
            }
        }
        return at;
    }

    /**
     * Returns a handle of a text: the index of its first byte in the upper half, and the number of bytes and the form in the lower
     * one; 0 if there is none.
     *
     * @param at the index of its first byte, not 0
     * @throws IndexOutOfBoundsException if it is behind the end
     */
    static long text(byte[] bytes, int at, int end) {
        int head = (int) INT.get(bytes, at);
        if (head == EncodedBytes.NULL) {
            return 0;
        }
        int length = head >>> 2;
        if (length > end - at - Integer.BYTES) {
            throw new IndexOutOfBoundsException();
        }
        return (long) at << Integer.SIZE | head & 0xFFFF_FFFFL;
    }

    /** Returns the index behind a text that begins at this index. */
    static int behind(long text, int at) {
        return at + Integer.BYTES + length(text);
    }

    static boolean isPlain(long text) {
        return (text & FORM) == EncodedBytes.PLAIN;
    }

    static int from(long text) {
        return (int) (text >>> Integer.SIZE) + Integer.BYTES;
    }

    static int length(long text) {
        return (int) text >>> 2;
    }

    /** Returns a text as a String; null if there is none. */
    static String string(byte[] bytes, long text) {
        if (text == 0) {
            return null;
        }
        int length = length(text);
        int from = from(text);
        if ((text & FORM) != EncodedBytes.WIDE) {
            return new String(bytes, from, length, StandardCharsets.ISO_8859_1);
        }
        char[] chars = new char[length / Short.BYTES];
        for (int i = 0; i < chars.length; i++) {
            chars[i] = (char) (short) SHORT.get(bytes, from + i * Short.BYTES);
        }
        return new String(chars);
    }

    /** Returns whether a text is equal to a String. */
    static boolean isText(byte[] bytes, int at, String text) {
        int head = (int) INT.get(bytes, at);
        int from = at + Integer.BYTES;
        boolean isWide = (head & FORM) == EncodedBytes.WIDE;
        if (head == EncodedBytes.NULL || head >>> 2 != (isWide ? 2 * text.length() : text.length())) {
            return false;
        }
        for (int i = 0; i < text.length(); i++) {
            int c = isWide ? (char) (short) SHORT.get(bytes, from + 2 * i) : bytes[from + i] & 0xFF;
            if (c != text.charAt(i)) {
                return false;
            }
        }
        return true;
    }

    /**
     * Returns the kind of a field.
     *
     * @param at the index of its first byte
     */
    static Kind kind(byte[] bytes, int at) {
        return KINDS[bytes[at]];
    }

    /**
     * Returns whether a text, number or boolean passes a test.
     *
     * @param at the index of its field
     */
    static boolean test(byte[] bytes, int at, ValuePredicate test) {
        int value = behindText(bytes, at + 1, bytes.length);
        return switch (KINDS[bytes[at]]) {
            case TEXT -> test.text(string(bytes, text(bytes, value, bytes.length)));
            case INTEGER -> test.integer((long) LONG.get(bytes, value));
            case REAL -> test.real(Double.longBitsToDouble((long) LONG.get(bytes, value)));
            case BOOLEAN -> test.bool(bytes[value] != 0);
            case NOTHING -> test.nothing();
            default -> throw new IllegalArgumentException("kind: " + KINDS[bytes[at]]);
        };
    }

    /**
     * Returns the index behind a text.
     *
     * @throws IndexOutOfBoundsException if it is behind the end
     */
    static int behindText(byte[] bytes, int at, int end) {
        return behind(text(bytes, at, end), at);
    }

    /**
     * Returns the index behind a field.
     *
     * @param at the index of its first byte
     */
    static int behindField(byte[] bytes, int at) {
        int value = behindText(bytes, at + 1, bytes.length);
        return switch (KINDS[bytes[at]]) {
            case TEXT -> behindText(bytes, value, bytes.length);
            case INTEGER, REAL -> value + Long.BYTES;
            case DECIMAL -> value + 2 * Integer.BYTES + (int) INT.get(bytes, value + Integer.BYTES);
            case BOOLEAN -> value + 1;
            case TIME, DURATION -> value + Long.BYTES + Integer.BYTES;
            case NOTHING -> value;
            case GROUP, LIST -> {
                int inner = value;
                while (bytes[inner] != EncodedBytes.END) {
                    inner = behindField(bytes, inner);
                }
                yield inner + 1;
            }
        };
    }

    /** Creates an object of the fields that it visits. */
    private static final class Reader implements EventRecord.Visitor {
        private final byte[] bytes;
        private final Fields to = new Fields(8);
        private int[] open = new int[4];
        private int depth;

        Reader(byte[] bytes) {
            this.bytes = bytes;
        }

        private String text(long text) {
            return string(bytes, text);
        }

        @Override
        public void text(long name, long value) {
            to.add(text(name), Kind.TEXT, 0, text(value));
        }

        @Override
        public void integer(long name, long value) {
            to.add(text(name), Kind.INTEGER, value, null);
        }

        @Override
        public void real(long name, double value) {
            to.add(text(name), Kind.REAL, Double.doubleToRawLongBits(value), null);
        }

        @Override
        public void decimal(long name, BigDecimal value) {
            to.add(text(name), Kind.DECIMAL, 0, value);
        }

        @Override
        public void bool(long name, boolean value) {
            to.add(text(name), Kind.BOOLEAN, value ? 1 : 0, null);
        }

        @Override
        public void time(long name, Instant value) {
            to.add(text(name), Kind.TIME, 0, value);
        }

        @Override
        public void duration(long name, Duration value) {
            to.add(text(name), Kind.DURATION, 0, value);
        }

        @Override
        public void nothing(long name) {
            to.add(text(name), Kind.NOTHING, 0, null);
        }

        @Override
        public void beginGroup(long name) {
            begin(name, Kind.GROUP);
        }

        @Override
        public void endGroup() {
            to.end(open[--depth]);
        }

        @Override
        public void beginList(long name) {
            begin(name, Kind.LIST);
        }

        @Override
        public void endList() {
            to.end(open[--depth]);
        }

        private void begin(long name, Kind kind) {
            open = depth == open.length ? Arrays.copyOf(open, 2 * depth) : open;
            open[depth++] = to.begin(text(name), kind);
        }
    }
}
