package dev.graphema.event;

import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.nio.ByteBuffer;
import java.util.Arrays;

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
public final class EventBytes extends EncodedBytes {
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
    static final byte NO_LEVEL = -1;

    private static final SharedFields NO_CONTEXT = new SharedFields();
    private static final int USUAL = 512;

    /** The longest array that is kept for the next event. */
    private static final int MOST_KEPT = 16 * 1024;

    // The texts of the last event that are still in the array, and the ends of their bytes. Most texts of an event are
    // the same objects as those of the one before.
    private final String[] written = new String[6];
    private final int[] ends = new int[written.length];
    private int known;

    public EventBytes() {
        super(USUAL);
    }

    /** Encodes the event, in place of the last one. */
    public EventBytes write(EventValues event) {
        return write(event, null, NO_CONTEXT);
    }

    /**
     * As above.
     *
     * @param packed the fields as bytes; null if they are those of the event
     * @param shared the contexts that fields of the event belong to
     */
    EventBytes write(EventValues event, FieldBytes packed, SharedFields shared) {
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
        if (packed != null) {
            packed.writeTo(this);
        } else {
            shared.encode(event.fields(), this);
        }
        putByte(END);
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

    /**
     * Writes an attribute, unless it and all before it are those of the last event.
     *
     * @return the next place
     */
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

    private void failure(Failure failure) {
        text(failure.type());
        text(failure.message());
        putInt(failure.sharedFrames());
        putInt(failure.omittedFrames());
        putInt(failure.frames().size());
        for (Failure.Frame frame : failure.frames()) {
            text(frame.type());
            text(frame.method());
            text(frame.file());
            putInt(frame.line());
        }
        putByte((byte) (failure.cause() == null ? 0 : 1));
        if (failure.cause() != null) {
            failure(failure.cause());
        }
        putByte((byte) failure.suppressed().size());
        failure.suppressed().forEach(this::failure);
    }
}
