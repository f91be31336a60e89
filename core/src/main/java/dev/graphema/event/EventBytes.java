package dev.graphema.event;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.math.BigDecimal;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.Objects;

/**
 * Encodes events as bytes: the form in which they wait in the queue of a sink, are held back, and are stored in a spool.
 * {@link EventRecord} reads it. Unpaired surrogates, numbers of any size and nesting are preserved. Reusable; for one
 * thread at a time.
 *
 * <p>The bytes; every number is big-endian:
 *
 * <pre>
 *  0  version    1 byte, 2
 *  1  level      1 byte, its ordinal, or 255
 *  2  flags      2 bytes: 1 trace, 2 span, 4 parent, 8 failure, 16 repeat, 32 held, 64 without a time
 *  4  reserved   4 bytes, 0
 *  8  time       8 bytes, nanoseconds since 1970
 * 16  sequence   8 bytes
 * 24  weight     8 bytes
 * 32  trace      16 bytes, 0 if not flagged
 * 48  span       8 bytes, 0 if not flagged
 * 56  parent     8 bytes, 0 if not flagged
 * 64  run, service, instance, thread, logger, message    texts
 *     fields     for each: kind (1 byte, ordinal), name (text), value; a group or list: its entries, then kind 255
 *                kind 255
 *     failure    if flagged: type, message (texts), shared, omitted (4 bytes), number of frames (4),
 *                frames (type, method, file: texts; line: 4 bytes), has a cause (1), the cause,
 *                number of suppressed (1), the suppressed
 * text           4 bytes: -1 for null, else the number of its bytes * 4 + its form; then the bytes.
 *                Form 0: ASCII characters that are the same in a JSON string (RFC 8259): none below U+0020, no quote,
 *                no backslash, no U+007F; form 1: ISO 8859-1; form 2: UTF-16
 * </pre>
 */
public final class EventBytes {
    static final byte VERSION = 2;
    static final int AT_LEVEL = 1;
    static final int AT_FLAGS = 2;
    static final int AT_TIME = 8;
    static final int AT_SEQUENCE = 16;
    static final int AT_WEIGHT = 24;
    static final int AT_TRACE = 32;
    static final int AT_SPAN = 48;
    static final int AT_PARENT = 56;
    static final int AT_TEXTS = 64;
    static final short HAS_TRACE = 1;
    static final short HAS_SPAN = 2;
    static final short HAS_PARENT = 4;
    static final short HAS_FAILURE = 8;
    static final short IS_REPEAT = 16;
    static final short IS_HELD = 32;
    static final short IS_TIMELESS = 64;
    static final byte END = -1;
    static final byte NO_LEVEL = -1;
    static final int PLAIN = 0;
    static final int LATIN = 1;
    static final int WIDE = 2;
    static final VarHandle SHORT = MethodHandles.byteArrayViewVarHandle(short[].class, ByteOrder.BIG_ENDIAN);
    static final VarHandle INT = MethodHandles.byteArrayViewVarHandle(int[].class, ByteOrder.BIG_ENDIAN);
    static final VarHandle LONG = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.BIG_ENDIAN);

    private static final int NULL = -1;
    private static final SharedFields NO_CONTEXT = new SharedFields();
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

    /** @param form the bytes, which are not changed */
    private record KnownText(String text, byte[] form) {}

    private static final int USUAL = 512;

    /** The longest array that is kept for the next event. */
    private static final int MOST_KEPT = 16 * 1024;

    private byte[] bytes = new byte[USUAL];
    private int length;

    // The texts of the last event that are still in the array, and the ends of their bytes. Most texts of an event are
    // the same objects as those of the one before.
    private final String[] written = new String[6];
    private final int[] ends = new int[written.length];
    private int known;

    /** Encodes the event, in place of the last one. */
    public EventBytes write(EventValues event) {
        return write(event, NO_CONTEXT);
    }

    EventBytes write(EventValues event, SharedFields shared) {
        if (bytes.length > MOST_KEPT) {
            bytes = new byte[USUAL];
            known = 0;
        }
        Level level = event.level();
        bytes[0] = VERSION;
        bytes[AT_LEVEL] = level == null ? NO_LEVEL : (byte) level.ordinal();
        LONG.set(bytes, AT_TIME, event.epochNanos());
        LONG.set(bytes, AT_SEQUENCE, event.sequence());
        LONG.set(bytes, AT_WEIGHT, event.weight());
        int flags = (event.repeat() ? IS_REPEAT : 0) | (event.held() ? IS_HELD : 0) | ids(event);
        Failure failure = event.failure();
        flags |= (failure == null ? 0 : HAS_FAILURE) | (event.hasTime() ? 0 : IS_TIMELESS);
        SHORT.set(bytes, AT_FLAGS, (short) flags);
        length = AT_TEXTS;
        texts(event);
        shared.encode(event.fields(), this);
        end();
        if (failure != null) {
            failure(failure);
        }
        return this;
    }

    /** Returns the array that begins with the bytes of the event. */
    public byte[] array() {
        return bytes;
    }

    /** Returns the number of bytes of the event. */
    public int length() {
        return length;
    }

    /** Returns the bytes of the event, valid until the next one is written. */
    public ByteBuffer view() {
        return ByteBuffer.wrap(bytes, 0, length);
    }

    /** Returns a copy of the bytes of the event. */
    public byte[] copy() {
        return Arrays.copyOf(bytes, length);
    }

    /** Marks an event whose bytes begin at this index as a repeat; no effect on an array that is too short. */
    public static void markAsRepeat(byte[] event, int from) {
        if (event.length - from < AT_TIME) {
            return;
        }
        SHORT.set(event, from + AT_FLAGS, (short) ((short) SHORT.get(event, from + AT_FLAGS) | IS_REPEAT));
    }

    private int ids(EventValues event) {
        TraceId trace = event.trace();
        SpanId span = event.span();
        SpanId parent = event.parent();
        LONG.set(bytes, AT_TRACE, trace == null ? 0 : trace.high());
        LONG.set(bytes, AT_TRACE + Long.BYTES, trace == null ? 0 : trace.low());
        LONG.set(bytes, AT_SPAN, span == null ? 0 : span.bits());
        LONG.set(bytes, AT_PARENT, parent == null ? 0 : parent.bits());
        return (trace == null ? 0 : HAS_TRACE) | (span == null ? 0 : HAS_SPAN) | (parent == null ? 0 : HAS_PARENT);
    }

    private void texts(EventValues event) {
        int place = 0;
        place = text(place, event.run());
        place = text(place, event.service());
        place = text(place, event.instance());
        place = text(place, event.thread());
        place = text(place, event.logger());
        place = text(place, event.message());
        known = place;
    }

    /** Writes an attribute, unless it and all before it are those of the last event. @return the next place */
    private int text(int place, String text) {
        if (place < known && written[place] == text) {
            length = ends[place];
            return place + 1;
        }
        known = place;
        text(text);
        written[place] = text;
        ends[place] = length;
        return place + 1;
    }

    /** Writes a range of entries. */
    void entries(Fields fields, int from, int to) {
        for (int i = from; i < to; i = fields.next(i)) {
            Kind kind = fields.kind(i);
            room(1);
            bytes[length++] = (byte) kind.ordinal();
            text(fields.name(i));
            switch (kind) {
                case TEXT -> text((String) fields.ref(i));
                case INTEGER, REAL -> putLong(fields.bits(i));
                case DECIMAL -> decimal((BigDecimal) fields.ref(i));
                case BOOLEAN -> {
                    room(1);
                    bytes[length++] = (byte) fields.bits(i);
                }
                case TIME -> {
                    Instant time = (Instant) fields.ref(i);
                    putLong(time.getEpochSecond());
                    putInt(time.getNano());
                }
                case DURATION -> {
                    Duration duration = (Duration) fields.ref(i);
                    putLong(duration.getSeconds());
                    putInt(duration.getNano());
                }
                case NOTHING -> {
                    // the kind says it all
                }
                case GROUP, LIST -> {
                    entries(fields, i + 1, fields.next(i));
                    end();
                }
            }
        }
    }

    /** Writes entries that were written before. */
    void bytes(byte[] entries) {
        room(entries.length);
        System.arraycopy(entries, 0, bytes, length, entries.length);
        length += entries.length;
    }

    /** Returns a copy of the bytes from an index on. */
    byte[] copy(int from) {
        return Arrays.copyOfRange(bytes, from, length);
    }

    private void end() {
        room(1);
        bytes[length++] = END;
    }

    private void decimal(BigDecimal value) {
        byte[] digits = value.unscaledValue().toByteArray();
        putInt(value.scale());
        putInt(digits.length);
        room(digits.length);
        System.arraycopy(digits, 0, bytes, length, digits.length);
        length += digits.length;
    }

    private void failure(Failure failure) {
        text(failure.type());
        text(failure.message());
        putInt(failure.sharedFrames());
        putInt(failure.omittedFrames());
        putInt(failure.frames().size());
        for (Frame frame : failure.frames()) {
            text(frame.type());
            text(frame.method());
            text(frame.file());
            putInt(frame.line());
        }
        room(1);
        bytes[length++] = (byte) (failure.cause() == null ? 0 : 1);
        if (failure.cause() != null) {
            failure(failure.cause());
        }
        room(1);
        bytes[length++] = (byte) failure.suppressed().size();
        failure.suppressed().forEach(this::failure);
    }

    private void text(String text) {
        if (text == null) {
            putInt(NULL);
        } else if (text.length() <= LONGEST_KNOWN) {
            shortText(text);
        } else {
            encode(text);
        }
    }

    private void shortText(String text) {
        int hash = text.hashCode();
        int place = (hash ^ hash >>> 16) & KNOWN_TEXTS.length - 1;
        KnownText known = KNOWN_TEXTS[place];
        if (known != null && known.text == text) {
            byte[] form = known.form;
            room(form.length);
            System.arraycopy(form, 0, bytes, length, form.length);
            length += form.length;
            return;
        }
        int begin = length;
        encode(text);
        if (SEEN_TEXTS[place] == text) {
            KNOWN_TEXTS[place] = new KnownText(text, Arrays.copyOfRange(bytes, begin, length));
        } else {
            SEEN_TEXTS[place] = text;
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

    private void putInt(int value) {
        room(Integer.BYTES);
        INT.set(bytes, length, value);
        length += Integer.BYTES;
    }

    private void putLong(long value) {
        room(Long.BYTES);
        LONG.set(bytes, length, value);
        length += Long.BYTES;
    }

    private void room(int count) {
        if (bytes.length - length < count) {
            Objects.checkFromIndexSize(length, count, Integer.MAX_VALUE); // or the event is too long for an array
            bytes = Arrays.copyOf(bytes, (int)
                    Math.min(Integer.MAX_VALUE - 8, Math.max(2L * bytes.length, length + (long) count)));
        }
    }
}
