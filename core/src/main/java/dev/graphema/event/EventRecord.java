package dev.graphema.event;

import static dev.graphema.event.EventBytes.INT;
import static dev.graphema.event.EventBytes.LONG;
import static dev.graphema.event.EventBytes.SHORT;

import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.math.BigDecimal;
import java.nio.ByteBuffer;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;

/**
 * An event in the form of {@link EventBytes}, read in place: for sinks and formats that write events without creating
 * objects of them. Reusable; for one thread. A sink may use it only during the call.
 *
 * <p>A text is returned as a handle, which {@link #isPlain}, {@link #from}, {@link #length} and {@link #string} take; 0
 * means that there is none.
 */
public final class EventRecord {
    private static final Level[] LEVELS = Level.values();

    /** The attributes that are texts, in the order of their bytes; the run is before them. */
    private static final int RUN = 0;

    private static final int SERVICE = 1;
    private static final int INSTANCE = 2;
    private static final int THREAD = 3;
    private static final int LOGGER = 4;
    private static final int MESSAGE = 5;

    private final long[] texts = new long[MESSAGE + 1];
    private byte[] bytes;
    private int start;
    private int end;
    private int flags;
    private int fieldsAt;

    /** Creates a record of these bytes. */
    public static EventRecord of(byte[] bytes) {
        return new EventRecord().read(bytes, 0, bytes.length);
    }

    /**
     * Returns the event in the bytes from the position to the limit of the buffer.
     *
     * @throws IllegalArgumentException as for {@link #read}
     */
    public static Event event(ByteBuffer from) {
        byte[] bytes = new byte[from.remaining()];
        from.duplicate().get(bytes);
        return of(bytes).event();
    }

    /**
     * Reads the event in a part of an array.
     *
     * @throws IllegalArgumentException if it has another version or is not an event
     */
    public EventRecord read(byte[] array, int from, int to) {
        check(array, from, to);
        bytes = array;
        start = from;
        end = to;
        flags = (short) SHORT.get(array, from + EventBytes.AT_FLAGS);
        try {
            int at = from + EventBytes.AT_TEXTS;
            for (int i = 0; i < texts.length; i++) {
                texts[i] = EncodedFields.text(bytes, at, end);
                at = EncodedFields.behind(texts[i], at);
            }
            fieldsAt = at;
        } catch (IndexOutOfBoundsException e) {
            throw new IllegalArgumentException("not the bytes of an event", e);
        }
        return this;
    }

    /**
     * Checks the version and the first part of an event.
     *
     * @throws IllegalArgumentException as for {@link #read}
     */
    public static void check(byte[] array, int from, int to) {
        if (to <= from || array[from] != EventBytes.VERSION) {
            throw new IllegalArgumentException("an event in version " + (to <= from ? "none" : array[from])
                    + " (expected: " + EventBytes.VERSION + ")");
        }
        int level = to - from < EventBytes.AT_TEXTS ? LEVELS.length : array[from + EventBytes.AT_LEVEL];
        if (level >= LEVELS.length || level < EventBytes.NO_LEVEL) {
            throw new IllegalArgumentException("not the bytes of an event");
        }
    }

    /** Returns the level of an event that was {@linkplain #check checked}; null if it has none. */
    public static Level level(byte[] array, int from) {
        byte level = array[from + EventBytes.AT_LEVEL];
        return level == EventBytes.NO_LEVEL ? null : LEVELS[level];
    }

    /** Returns whether the time is known. */
    public boolean hasTime() {
        return (flags & EventBytes.IS_TIMELESS) == 0;
    }

    /** Returns the time, in nanoseconds since 1970-01-01T00:00:00Z. */
    public long epochNanos() {
        return number(EventBytes.AT_TIME);
    }

    /** Returns the level, or null. */
    public Level level() {
        return level(bytes, start);
    }

    /** Returns the number of the event in its process; 0 if it has none. */
    public long sequence() {
        return number(EventBytes.AT_SEQUENCE);
    }

    /** Returns how many events this one represents after sampling. */
    public long weight() {
        return number(EventBytes.AT_WEIGHT);
    }

    /** Returns whether the event may have been written before. */
    public boolean repeat() {
        return (flags & EventBytes.IS_REPEAT) != 0;
    }

    /** Returns whether the event was held back. */
    public boolean held() {
        return (flags & EventBytes.IS_HELD) != 0;
    }

    public boolean hasTrace() {
        return (flags & EventBytes.HAS_TRACE) != 0;
    }

    /** Returns the first 64 bits of the trace id. */
    public long traceHigh() {
        return number(EventBytes.AT_TRACE);
    }

    /** Returns the last 64 bits of the trace id. */
    public long traceLow() {
        return number(EventBytes.AT_TRACE + Long.BYTES);
    }

    public boolean hasSpan() {
        return (flags & EventBytes.HAS_SPAN) != 0;
    }

    public long span() {
        return number(EventBytes.AT_SPAN);
    }

    public boolean hasParent() {
        return (flags & EventBytes.HAS_PARENT) != 0;
    }

    public long parent() {
        return number(EventBytes.AT_PARENT);
    }

    /** Returns the text of the run of the process, or 0. */
    public long run() {
        return texts[RUN];
    }

    public long service() {
        return texts[SERVICE];
    }

    public long instance() {
        return texts[INSTANCE];
    }

    public long thread() {
        return texts[THREAD];
    }

    public long logger() {
        return texts[LOGGER];
    }

    public long message() {
        return texts[MESSAGE];
    }

    /** Returns the number of bytes of the event. */
    public int length() {
        return end - start;
    }

    /** Returns the array that contains the event. */
    public byte[] array() {
        return bytes;
    }

    /** Returns the index of its first byte in the array. */
    public int start() {
        return start;
    }

    /**
     * Returns whether a text consists of ASCII characters that are the same in a JSON string: its bytes can be
     * copied.
     */
    public boolean isPlain(long text) {
        return EncodedFields.isPlain(text);
    }

    /** Returns the index of the first byte of a plain text. */
    public int from(long text) {
        return EncodedFields.from(text);
    }

    /** Returns the number of bytes of a plain text. */
    public int length(long text) {
        return EncodedFields.length(text);
    }

    /** Returns a text as a String; null for 0. */
    public String string(long text) {
        return EncodedFields.string(bytes, text);
    }

    /** Returns whether a text is equal to a String. */
    public boolean isText(long text, String other) {
        return text != 0 && EncodedFields.isText(bytes, (int) (text >>> Integer.SIZE), other);
    }

    public boolean hasFields() {
        return bytes[fieldsAt] != EventBytes.END;
    }

    /** Passes all fields to the visitor, in order. */
    public void visit(Visitor visitor) {
        EncodedFields.visit(bytes, fieldsAt, end, visitor);
    }

    /** Returns the failure, or null. */
    public Failure failure() {
        return (flags & EventBytes.HAS_FAILURE) == 0
                ? null
                : new FailureReader(EncodedFields.visit(bytes, fieldsAt, end, Visitor.NONE)).read();
    }

    /**
     * Returns the event as an object.
     *
     * @throws IllegalArgumentException if the bytes are not an event
     */
    public Event event() {
        return draft().finish();
    }

    /**
     * Returns the event as a draft, to which values can still be added.
     *
     * @throws IllegalArgumentException if the bytes are not an event
     */
    public Draft draft() {
        try {
            return toDraft();
        } catch (RuntimeException e) { // each part can be invalid in its own way
            throw new IllegalArgumentException("not the bytes of an event", e);
        }
    }

    private Draft toDraft() {
        Draft draft = Draft.ofWritten();
        draft.time = epochNanos();
        draft.isTimeless = !hasTime();
        draft.level = level();
        draft.sequence = sequence();
        draft.weight = weight();
        draft.run = string(run());
        draft.service = string(service());
        draft.instance = string(instance());
        draft.thread = string(thread());
        draft.logger = string(logger());
        draft.message = string(message());
        draft.trace = hasTrace() ? new TraceId(traceHigh(), traceLow()) : null;
        draft.span = hasSpan() ? new SpanId(span()) : null;
        draft.parent = hasParent() ? new SpanId(parent()) : null;
        draft.repeat = repeat();
        draft.held = held();
        Fields fields = EncodedFields.fields(bytes, fieldsAt, end);
        draft.fields = fields.isEmpty() ? Fields.NONE : fields;
        draft.failure = failure();
        return draft;
    }

    private long number(int at) {
        return (long) LONG.get(bytes, start + at);
    }

    /**
     * Receives the fields of the record in order. Names and texts are handles of the record; the name of an item
     * of a list is 0.
     */
    public interface Visitor {
        /** Ignores all fields. */
        Visitor NONE = new Visitor() {};

        default void text(long name, long value) {}

        default void integer(long name, long value) {}

        default void real(long name, double value) {}

        default void decimal(long name, BigDecimal value) {}

        default void bool(long name, boolean value) {}

        default void time(long name, Instant value) {}

        default void duration(long name, Duration value) {}

        default void nothing(long name) {}

        default void beginGroup(long name) {}

        default void endGroup() {}

        default void beginList(long name) {}

        default void endList() {}
    }

    private final class FailureReader {
        private int at;

        FailureReader(int at) {
            this.at = at;
        }

        Failure read() {
            String type = text();
            String message = text();
            int shared = number();
            int omitted = number();
            Failure.Frame[] frames = new Failure.Frame[Math.min(number(), end - at)];
            for (int i = 0; i < frames.length; i++) {
                frames[i] = new Failure.Frame(text(), text(), text(), number());
            }
            Failure cause = bytes[at++] == 0 ? null : read();
            Failure[] suppressed = new Failure[bytes[at++]];
            for (int i = 0; i < suppressed.length; i++) {
                suppressed[i] = read();
            }
            return new Failure(type, message, Arrays.asList(frames), shared, omitted, cause, Arrays.asList(suppressed));
        }

        private String text() {
            long text = EncodedFields.text(bytes, at, end);
            at = EncodedFields.behind(text, at);
            return EncodedFields.string(bytes, text);
        }

        private int number() {
            at += Integer.BYTES;
            return (int) INT.get(bytes, at - Integer.BYTES);
        }
    }
}
