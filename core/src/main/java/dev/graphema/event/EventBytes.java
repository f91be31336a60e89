package dev.graphema.event;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;

/**
 * Writes and reads events as bytes, for events that wait on disk until they are written. Unpaired surrogates, numbers of
 * any size and nesting are preserved. For one thread at a time; reusable.
 *
 * <p>The bytes, in this order; every number is big-endian:
 *
 * <pre>
 * version       1 byte, 1
 * time          8 bytes, nanoseconds since 1970
 * level         1 byte, its ordinal, or 255
 * flags         1 byte: 1 trace, 2 span, 4 parent, 8 failure, 16 repeat, 32 held
 * sequence      8 bytes
 * weight        8 bytes
 * run, service, instance, logger, message, thread    texts
 * trace         16 bytes, span 8, parent 8, each if flagged
 * fields        for each: kind (1 byte, ordinal), name (text), value; a group or list: its entries, then kind 255
 *               kind 255
 * failure       if flagged: type, message (texts), shared, omitted (4 bytes), number of frames (4),
 *               frames (type, method, file: texts; line: 4 bytes), has a cause (1), the cause,
 *               number of suppressed (1), the suppressed
 * text          4 bytes: -1 for null, else length * 2 + (1 when wide); then one byte a character, or two when wide
 * </pre>
 */
public final class EventBytes {
    private static final byte VERSION = 1;
    private static final int HAS_TRACE = 1;
    private static final int HAS_SPAN = 2;
    private static final int HAS_PARENT = 4;
    private static final int HAS_FAILURE = 8;
    private static final int IS_REPEAT = 16;
    private static final int IS_HELD = 32;
    private static final int AT_FLAGS = 10;
    private static final byte END = -1;
    private static final byte NO_LEVEL = -1;
    private static final Kind[] KINDS = Kind.values();
    private static final Level[] LEVELS = Level.values();

    private byte[] bytes = new byte[1024];
    private ByteBuffer at = ByteBuffer.wrap(bytes);
    private final FieldBytes fieldBytes = new FieldBytes();

    /** Returns the bytes of the event, from the position to the limit of the buffer, valid until the next call. */
    public ByteBuffer write(Event event) {
        at.clear();
        room(64);
        at.put(VERSION).putLong(event.time);
        at.put(event.level == null ? NO_LEVEL : (byte) event.level.ordinal());
        int flags = (event.trace == null ? 0 : HAS_TRACE)
                | (event.span == null ? 0 : HAS_SPAN)
                | (event.parent == null ? 0 : HAS_PARENT)
                | (event.failure == null ? 0 : HAS_FAILURE)
                | (event.repeat ? IS_REPEAT : 0)
                | (event.held ? IS_HELD : 0);
        at.put((byte) flags).putLong(event.sequence).putLong(event.weight);
        text(event.run);
        text(event.service);
        text(event.instance);
        text(event.logger);
        text(event.message);
        text(event.thread);
        room(32);
        if (event.trace != null) {
            at.putLong(event.trace.high()).putLong(event.trace.low());
        }
        if (event.span != null) {
            at.putLong(event.span.bits());
        }
        if (event.parent != null) {
            at.putLong(event.parent.bits());
        }
        event.fields.visit(fieldBytes);
        end();
        if (event.failure != null) {
            failure(event.failure);
        }
        at.flip();
        return at;
    }

    /**
     * Reads the event in the bytes from the position to the limit of the buffer.
     *
     * @throws IllegalArgumentException if they have another version or are not an event
     */
    public static Event read(ByteBuffer from) {
        byte version = from.get();
        if (version != VERSION) {
            throw new IllegalArgumentException("an event in version " + version + " (expected: " + VERSION + ")");
        }
        try {
            return event(from);
        } catch (RuntimeException e) { // each part can be invalid in its own way
            throw new IllegalArgumentException("not the bytes of an event", e);
        }
    }

    /** Returns a copy of the bytes that is marked as a repeat. */
    public static ByteBuffer asRepeat(ByteBuffer bytes) {
        ByteBuffer copy =
                ByteBuffer.allocate(bytes.remaining()).put(bytes.duplicate()).flip();
        if (copy.limit() > AT_FLAGS) {
            copy.put(AT_FLAGS, (byte) (copy.get(AT_FLAGS) | IS_REPEAT));
        }
        return copy;
    }

    private static Event event(ByteBuffer from) {
        Event event = new Event();
        event.time = from.getLong();
        byte level = from.get();
        event.level = level == NO_LEVEL ? null : LEVELS[level];
        int flags = from.get();
        event.sequence = from.getLong();
        event.weight = from.getLong();
        event.run = readText(from);
        event.service = readText(from);
        event.instance = readText(from);
        event.logger = readText(from);
        event.message = readText(from);
        event.thread = readText(from);
        event.trace = (flags & HAS_TRACE) == 0 ? null : new TraceId(from.getLong(), from.getLong());
        event.span = (flags & HAS_SPAN) == 0 ? null : new SpanId(from.getLong());
        event.parent = (flags & HAS_PARENT) == 0 ? null : new SpanId(from.getLong());
        event.repeat = (flags & IS_REPEAT) != 0;
        event.held = (flags & IS_HELD) != 0;
        Fields fields = new Fields(8);
        readFields(from, fields);
        event.fields = fields.isEmpty() ? Fields.NONE : fields;
        event.failure = (flags & HAS_FAILURE) == 0 ? null : readFailure(from);
        return event;
    }

    private void room(int count) {
        if (at.remaining() < count) {
            int position = at.position();
            bytes = Arrays.copyOf(bytes, Math.max(bytes.length * 2, position + count));
            at = ByteBuffer.wrap(bytes).position(position);
        }
    }

    private void end() {
        room(1);
        at.put(END);
    }

    @SuppressWarnings("deprecation") // the one way to copy a String's bytes without an array between; right for Latin-1
    private void text(String text) {
        if (text == null) {
            room(4);
            at.putInt(-1);
            return;
        }
        int length = text.length();
        boolean wide = isWide(text, length);
        room(4 + (wide ? 2 * length : length));
        at.putInt(length * 2 + (wide ? 1 : 0));
        if (wide) {
            for (int i = 0; i < length; i++) {
                at.putChar(text.charAt(i));
            }
        } else {
            int position = at.position();
            text.getBytes(0, length, bytes, position);
            at.position(position + length);
        }
    }

    private static boolean isWide(String text, int length) {
        for (int i = 0; i < length; i++) {
            if (text.charAt(i) > 0xFF) {
                return true;
            }
        }
        return false;
    }

    private static String readText(ByteBuffer from) {
        int head = from.getInt();
        if (head == -1) {
            return null;
        }
        int length = head >>> 1;
        if (length > from.remaining()) {
            throw new IndexOutOfBoundsException();
        }
        boolean wide = (head & 1) == 1;
        byte[] read = new byte[wide ? 2 * length : length];
        from.get(read);
        if (!wide) {
            return new String(read, StandardCharsets.ISO_8859_1);
        }
        // Not by a charset, which would replace half pairs of surrogates.
        char[] chars = new char[length];
        ByteBuffer.wrap(read).asCharBuffer().get(chars);
        return new String(chars);
    }

    private void failure(Failure failure) {
        text(failure.type());
        text(failure.message());
        room(12);
        at.putInt(failure.sharedFrames())
                .putInt(failure.omittedFrames())
                .putInt(failure.frames().size());
        for (Frame frame : failure.frames()) {
            text(frame.type());
            text(frame.method());
            text(frame.file());
            room(4);
            at.putInt(frame.line());
        }
        room(1);
        at.put((byte) (failure.cause() == null ? 0 : 1));
        if (failure.cause() != null) {
            failure(failure.cause());
        }
        room(1);
        at.put((byte) failure.suppressed().size());
        failure.suppressed().forEach(this::failure);
    }

    private static Failure readFailure(ByteBuffer from) {
        String type = readText(from);
        String message = readText(from);
        int shared = from.getInt();
        int omitted = from.getInt();
        Frame[] frames = new Frame[Math.min(from.getInt(), from.remaining())];
        for (int i = 0; i < frames.length; i++) {
            frames[i] = new Frame(readText(from), readText(from), readText(from), from.getInt());
        }
        Failure cause = from.get() == 0 ? null : readFailure(from);
        Failure[] suppressed = new Failure[from.get()];
        for (int i = 0; i < suppressed.length; i++) {
            suppressed[i] = readFailure(from);
        }
        return new Failure(type, message, Arrays.asList(frames), shared, omitted, cause, Arrays.asList(suppressed));
    }

    private static void readFields(ByteBuffer from, Fields to) {
        byte kind;
        while ((kind = from.get()) != END) {
            String name = readText(from);
            switch (KINDS[kind]) {
                case TEXT -> to.add(name, Kind.TEXT, 0, readText(from));
                case INTEGER -> to.add(name, Kind.INTEGER, from.getLong(), null);
                case REAL -> to.add(name, Kind.REAL, from.getLong(), null);
                case DECIMAL -> {
                    int scale = from.getInt();
                    byte[] digits = new byte[Math.min(from.getInt(), from.remaining())];
                    from.get(digits);
                    to.add(name, Kind.DECIMAL, 0, new BigDecimal(new BigInteger(digits), scale));
                }
                case BOOLEAN -> to.add(name, Kind.BOOLEAN, from.get(), null);
                case TIME -> to.add(name, Kind.TIME, 0, Instant.ofEpochSecond(from.getLong(), from.getInt()));
                case DURATION -> to.add(name, Kind.DURATION, 0, Duration.ofSeconds(from.getLong(), from.getInt()));
                case NOTHING -> to.add(name, Kind.NOTHING, 0, null);
                case GROUP, LIST -> {
                    int index = to.begin(name, KINDS[kind]);
                    readFields(from, to);
                    to.end(index);
                }
            }
        }
    }

    private final class FieldBytes implements FieldVisitor {
        private void begin(Kind kind, String name) {
            room(1);
            at.put((byte) kind.ordinal());
            EventBytes.this.text(name);
            room(16);
        }

        @Override
        public void text(String name, String value) {
            begin(Kind.TEXT, name);
            EventBytes.this.text(value);
        }

        @Override
        public void integer(String name, long value) {
            begin(Kind.INTEGER, name);
            at.putLong(value);
        }

        @Override
        public void real(String name, double value) {
            begin(Kind.REAL, name);
            at.putLong(Double.doubleToRawLongBits(value));
        }

        @Override
        public void decimal(String name, BigDecimal value) {
            begin(Kind.DECIMAL, name);
            byte[] digits = value.unscaledValue().toByteArray();
            at.putInt(value.scale()).putInt(digits.length);
            room(digits.length);
            at.put(digits);
        }

        @Override
        public void bool(String name, boolean value) {
            begin(Kind.BOOLEAN, name);
            at.put((byte) (value ? 1 : 0));
        }

        @Override
        public void time(String name, Instant value) {
            begin(Kind.TIME, name);
            at.putLong(value.getEpochSecond()).putInt(value.getNano());
        }

        @Override
        public void duration(String name, Duration value) {
            begin(Kind.DURATION, name);
            at.putLong(value.getSeconds()).putInt(value.getNano());
        }

        @Override
        public void nothing(String name) {
            begin(Kind.NOTHING, name);
        }

        @Override
        public void beginGroup(String name) {
            begin(Kind.GROUP, name);
        }

        @Override
        public void endGroup() {
            end();
        }

        @Override
        public void beginList(String name) {
            begin(Kind.LIST, name);
        }

        @Override
        public void endList() {
            end();
        }
    }
}
