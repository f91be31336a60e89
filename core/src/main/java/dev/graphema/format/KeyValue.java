package dev.graphema.format;

import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.event.SpanId;
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

    @Override
    public void write(Event event, Utf8Buffer to) {
        to.ascii("time=");
        times.write(event.epochNanos(), to);
        pair("level", event.level() == null ? null : event.level().text(), to);
        pair("service", event.service(), to);
        pair("instance", event.instance(), to);
        pair("logger", event.logger(), to);
        pair("message", event.message(), to);
        if (event.trace() != null) {
            to.ascii(" trace=").hex(event.trace().high()).hex(event.trace().low());
        }
        id("span", event.span(), to);
        id("parent", event.parent(), to);
        pair("thread", event.thread(), to);
        if (event.sequence() != 0) {
            to.ascii(" sequence=").number(event.sequence());
        }
        if (event.weight() != 1) {
            to.ascii(" weight=").number(event.weight());
        }
        if (event.held()) {
            to.ascii(" held=true");
        }
        for (FieldText.Pair pair : FieldText.of(event.fields())) {
            to.ascii(' ').text(plainName(pair.name())).ascii('=').text(pair.value());
        }
        if (event.failure() != null) {
            failure(event.failure(), to);
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

    private static void id(String name, SpanId id, Utf8Buffer to) {
        if (id != null) {
            to.ascii(' ').ascii(name).ascii('=').hex(id.bits());
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
}
