package dev.graphema.format;

import static java.nio.charset.StandardCharsets.US_ASCII;

import dev.graphema.event.EventRecord;
import dev.graphema.event.Failure;
import dev.graphema.event.Level;
import dev.graphema.text.Digits;
import dev.graphema.text.Times;
import dev.graphema.text.Utf8Buffer;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;

/**
 * Writes records as {@link JsonLines} writes events. Usual values are copied directly into the array of the buffer, which
 * has room for the whole line: this is the work of a sink's thread for each event. For one thread.
 */
final class JsonRecordLines implements EventRecord.Visitor {
    private static final byte[] FIRST = ("{\"" + JsonMember.TIME.text() + "\":").getBytes(US_ASCII);
    private static final byte[] NULL = "null".getBytes(US_ASCII);
    private static final byte[] TRUE = "true".getBytes(US_ASCII);
    private static final byte[] FALSE = "false".getBytes(US_ASCII);
    private static final byte[][] LEVELS = new byte[Level.values().length][];
    private static final byte[] SERVICE = following(JsonMember.SERVICE);
    private static final byte[] INSTANCE = following(JsonMember.INSTANCE);
    private static final byte[] LOGGER = following(JsonMember.LOGGER);
    private static final byte[] MESSAGE = following(JsonMember.MESSAGE);
    private static final byte[] TRACE = following(JsonMember.TRACE);
    private static final byte[] SPAN = following(JsonMember.SPAN);
    private static final byte[] PARENT = following(JsonMember.PARENT);
    private static final byte[] THREAD = following(JsonMember.THREAD);
    private static final byte[] SEQUENCE = following(JsonMember.SEQUENCE);
    private static final byte[] ID = following(JsonMember.ID);
    private static final byte[] REPEAT = following(JsonMember.REPEAT);
    private static final byte[] HELD = following(JsonMember.HELD);
    private static final byte[] WEIGHT = following(JsonMember.WEIGHT);
    private static final byte[] FIELDS = following(JsonMember.FIELDS);
    private static final byte[] FINGERPRINT = following(JsonMember.FINGERPRINT);
    private static final byte[] FAILURE = following(JsonMember.FAILURE);

    /** The room for names and signs of a line, and how many bytes a byte of a record takes at most, if it is plain. */
    private static final int ROOM_OF_LINE = 1024;

    private static final int GROWTH = 3;

    static {
        for (Level level : Level.values()) {
            LEVELS[level.ordinal()] = (JsonMember.LEVEL.following() + '"' + level.text() + '"').getBytes(US_ASCII);
        }
    }

    private final Rfc3339 times = new Rfc3339();
    private EventRecord record;
    private byte[] from;
    private Utf8Buffer buffer;
    private byte[] to;
    private int at;
    private boolean first;

    private static byte[] following(JsonMember member) {
        return member.following().getBytes(US_ASCII);
    }

    /** @param withId whether events contain their id */
    void write(EventRecord event, boolean withId, Utf8Buffer line) {
        record = event;
        from = event.array();
        buffer = line;
        resume();
        put(FIRST);
        if (event.hasTime()) {
            time(event.epochNanos());
        } else {
            put(NULL);
        }
        if (event.level() != null) {
            put(LEVELS[event.level().ordinal()]);
        }
        text(SERVICE, event.service());
        text(INSTANCE, event.instance());
        text(LOGGER, event.logger());
        text(MESSAGE, event.message());
        ids(event);
        text(THREAD, event.thread());
        numbers(event, withId);
        if (event.hasFields()) {
            put(FIELDS);
            open('{');
            event.visit(this);
            close('}');
        }
        Failure failure = event.failure();
        if (failure != null) {
            put(FINGERPRINT);
            slowly();
            JsonText.string(failure.fingerprint(), buffer);
            buffer.bytes(FAILURE, 0, FAILURE.length);
            JsonFailure.write(failure, buffer);
            resume();
        }
        to[at++] = '}';
        to[at++] = '\n';
        slowly();
    }

    private void ids(EventRecord event) {
        if (event.hasTrace()) {
            put(TRACE);
            to[at++] = '"';
            at = Digits.hex(event.traceLow(), to, Digits.hex(event.traceHigh(), to, at));
            to[at++] = '"';
        }
        if (event.hasSpan()) {
            id(SPAN, event.span());
        }
        if (event.hasParent()) {
            id(PARENT, event.parent());
        }
    }

    private void id(byte[] name, long bits) {
        put(name);
        to[at++] = '"';
        at = Digits.hex(bits, to, at);
        to[at++] = '"';
    }

    private void numbers(EventRecord event, boolean withId) {
        long sequence = event.sequence();
        if (sequence != 0) {
            put(SEQUENCE);
            at = Digits.number(sequence, to, at);
            if (withId && event.run() != 0) {
                text(ID, event.run());
                to[at - 1] = '-'; // in place of the quote
                at = Digits.number(sequence, to, at);
                to[at++] = '"';
            }
        }
        if (event.repeat()) {
            put(REPEAT);
            put(TRUE);
        }
        if (event.held()) {
            put(HELD);
            put(TRUE);
        }
        if (event.weight() != 1) {
            put(WEIGHT);
            at = Digits.number(event.weight(), to, at);
        }
    }

    @Override
    public void text(long name, long value) {
        name(name);
        string(value);
    }

    @Override
    public void integer(long name, long value) {
        name(name);
        at = Digits.number(value, to, at);
    }

    @Override
    public void real(long name, double value) {
        name(name);
        slowly();
        JsonText.real(value, buffer);
        resume();
    }

    @Override
    public void decimal(long name, BigDecimal value) {
        name(name);
        slowly();
        buffer.ascii(value.toString());
        resume();
    }

    @Override
    public void bool(long name, boolean value) {
        name(name);
        put(value ? TRUE : FALSE);
    }

    @Override
    public void time(long name, Instant value) {
        name(name);
        time(Times.epochNanos(value));
    }

    @Override
    public void duration(long name, Duration value) {
        name(name);
        slowly();
        buffer.ascii('"').ascii(value.toString()).ascii('"');
        resume();
    }

    @Override
    public void nothing(long name) {
        name(name);
        put(NULL);
    }

    @Override
    public void beginGroup(long name) {
        name(name);
        open('{');
    }

    @Override
    public void endGroup() {
        close('}');
    }

    @Override
    public void beginList(long name) {
        name(name);
        open('[');
    }

    @Override
    public void endList() {
        close(']');
    }

    private void open(char bracket) {
        to[at++] = (byte) bracket;
        first = true;
    }

    private void close(char bracket) {
        to[at++] = (byte) bracket;
        first = false;
    }

    private void name(long name) {
        if (!first) {
            to[at++] = ',';
        }
        first = false;
        if (name != 0) {
            string(name);
            to[at++] = ':';
        }
    }

    private void text(byte[] name, long value) {
        if (value != 0) {
            put(name);
            string(value);
        }
    }

    private void string(long text) {
        if (record.isPlain(text)) {
            int length = record.length(text);
            to[at] = '"';
            System.arraycopy(from, record.from(text), to, at + 1, length);
            at += length + 2;
            to[at - 1] = '"';
        } else {
            slowly();
            JsonText.string(record.string(text), buffer);
            resume();
        }
    }

    private void time(long epochNanos) {
        to[at] = '"';
        at = times.write(epochNanos, to, at + 1);
        to[at++] = '"';
    }

    private void put(byte[] text) {
        System.arraycopy(text, 0, to, at, text.length);
        at += text.length;
    }

    /** Begins to write through the buffer, which grows as needed. */
    private void slowly() {
        buffer.setLength(at);
    }

    /** Begins to write into the array of the buffer. */
    private void resume() {
        to = buffer.array(GROWTH * record.length() + ROOM_OF_LINE);
        at = buffer.length();
    }
}
