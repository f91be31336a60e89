package dev.graphema.format;

import dev.graphema.event.Event;
import dev.graphema.event.EventBytes;
import dev.graphema.event.EventRecord;
import dev.graphema.event.Failure;
import dev.graphema.text.AsciiSet;
import dev.graphema.text.Utf8Buffer;

/**
 * One line of {@code name=value} pairs for each event, for tools that read such lines and for people:
 *
 * <pre>{@code
 * time=2026-05-15T06:31:02.123456789Z level=error service=deck logger=skerry.deck.Lanes message="lane not free" lane=A3
 * }</pre>
 *
 * <p>The attributes come first, with the names of the JSON form; of a failure, the type, message, fingerprint and first frame
 * are written. Fields in groups have dotted names. Values with blanks, quotes, equals signs or brackets are quoted, and
 * quotes in them are escaped by a backslash; blanks, quotes and equals signs in names become underscores.
 */
public final class KeyValue implements Format {
    private static final AsciiSet PLAIN = AsciiSet.printableExcept(" =\"");

    private final Rfc3339 times = new Rfc3339();
    private final EventBytes bytes = new EventBytes();
    private final EventRecord record = new EventRecord();
    private final RecordPairs fields = new Fields();

    @Override
    public void write(Event event, Utf8Buffer to) {
        bytes.write(event);
        write(record.read(bytes.array(), 0, bytes.length()), to);
    }

    @Override
    public void write(EventRecord event, Utf8Buffer to) {
        to.ascii("time=");
        times.write(event.epochNanos(), to);
        if (event.level() != null) {
            to.ascii(" level=").ascii(event.level().text());
        }
        pair(" service=", event, event.service(), to);
        pair(" instance=", event, event.instance(), to);
        pair(" logger=", event, event.logger(), to);
        pair(" message=", event, event.message(), to);
        if (event.hasTrace()) {
            to.ascii(" trace=").hex(event.traceHigh()).hex(event.traceLow());
        }
        if (event.hasSpan()) {
            to.ascii(" span=").hex(event.span());
        }
        if (event.hasParent()) {
            to.ascii(" parent=").hex(event.parent());
        }
        pair(" thread=", event, event.thread(), to);
        if (event.sequence() != 0) {
            to.ascii(" sequence=").number(event.sequence());
        }
        if (event.weight() != 1) {
            to.ascii(" weight=").number(event.weight());
        }
        if (event.held()) {
            to.ascii(" held=true");
        }
        fields.write(event, to);
        Failure failure = event.failure();
        if (failure != null) {
            failure(failure, to);
        }
        to.ascii('\n');
    }

    private static void failure(Failure failure, Utf8Buffer to) {
        pair("failure.type", failure.type(), to);
        pair("failure.message", failure.message(), to);
        pair("failure.fingerprint", failure.fingerprint(), to);
        if (!failure.frames().isEmpty()) {
            pair("failure.at", failure.frames().get(0), to);
        }
        if (failure.root() != failure) {
            pair("failure.cause", failure.root().type(), to);
        }
    }

    private static void pair(String name, EventRecord event, long text, Utf8Buffer to) {
        if (text != 0) {
            to.ascii(name);
            value(event, text, to);
        }
    }

    /** Writes a text of a record as {@link FieldText#quoted} returns it. */
    static void value(EventRecord event, long text, Utf8Buffer to) {
        int from = event.from(text);
        int length = event.length(text);
        if (length == 0 || !event.isPlain(text)) {
            to.text(FieldText.quoted(event.string(text)));
        } else if (FieldText.PLAIN.containsAll(event.array(), from, length)) {
            to.bytes(event.array(), from, length);
        } else {
            to.ascii('"').bytes(event.array(), from, length).ascii('"'); // nothing in it needs an escape
        }
    }

    private static void pair(String name, Object value, Utf8Buffer to) {
        if (value != null) {
            to.ascii(' ').ascii(name).ascii('=').text(FieldText.quoted(value.toString()));
        }
    }

    private static String plainName(String name) {
        if (PLAIN.containsAll(name) && !name.isEmpty()) {
            return name;
        }
        String plain = name.replace(' ', '_').replace('=', '_').replace('"', '_');
        return plain.isEmpty() ? "_" : plain;
    }

    private static final class Fields extends RecordPairs {
        Fields() {
            super(true);
        }

        @Override
        void begin(EventRecord event, long name, Utf8Buffer line) {
            int from = event.from(name);
            int length = event.length(name);
            if (length > 0 && PLAIN.containsAll(event.array(), from, length)) {
                line.ascii(' ').bytes(event.array(), from, length).ascii('=');
            } else {
                begin(event.string(name), line);
            }
        }

        @Override
        void begin(String name, Utf8Buffer line) {
            line.ascii(' ').text(plainName(name)).ascii('=');
        }
    }
}
