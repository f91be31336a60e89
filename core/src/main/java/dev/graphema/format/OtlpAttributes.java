package dev.graphema.format;

import dev.graphema.event.EventRecord;
import dev.graphema.event.Failure;
import dev.graphema.text.Utf8Buffer;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.util.BitSet;

/** Writes lists of keys and values of {@link OtlpJson}, in which nested fields are lists of keys and values. For one thread. */
final class OtlpAttributes implements EventRecord.Visitor {
    /** Whether each open group or list has a name, and is therefore a value within braces. */
    private final BitSet named = new BitSet();

    private int depth;
    private EventRecord record;
    private Utf8Buffer to;
    private boolean first;

    /** Writes the fields of an event, and what the protocol has no member for. */
    void write(EventRecord event, Utf8Buffer line) {
        begin(line);
        record = event;
        depth = 0;
        event.visit(this);
        id(event);
        if (event.thread() != 0) {
            own("thread.name", event.thread());
        }
        if (event.hasParent()) {
            own("graphema.parent_span")
                    .ascii("{\"stringValue\":\"")
                    .hex(event.parent())
                    .ascii("\"}}");
        }
        if (event.sequence() != 0) {
            own("graphema.sequence")
                    .ascii("{\"intValue\":\"")
                    .number(event.sequence())
                    .ascii("\"}}");
        }
        if (event.weight() != 1) {
            own("graphema.weight")
                    .ascii("{\"intValue\":\"")
                    .number(event.weight())
                    .ascii("\"}}");
        }
        if (event.held()) {
            own("graphema.held").ascii("{\"boolValue\":true}}");
        }
        Failure failure = event.failure();
        if (failure != null) {
            failure(failure);
        }
        to.ascii(']');
    }

    /** Writes the attributes of a failure only. */
    void write(Failure failure, Utf8Buffer line) {
        begin(line);
        failure(failure);
        to.ascii(']');
    }

    private void begin(Utf8Buffer line) {
        to = line;
        to.ascii(",\"attributes\":[");
        first = true;
    }

    /** Writes run and sequence, as {@link dev.graphema.event.Event#id} joins them. */
    private void id(EventRecord event) {
        if (event.run() != 0 && event.sequence() != 0) {
            own("log.record.uid", event.run());
            to.cutBack(to.length() - "\"}}".length());
            to.ascii('-').number(event.sequence()).ascii("\"}}");
        }
    }

    private void failure(Failure failure) {
        own("exception.type", failure.type());
        own("exception.message", failure.message());
        own("exception.stacktrace", FailureText.of(failure));
        own("graphema.fingerprint", failure.fingerprint());
    }

    private Utf8Buffer own(String name) {
        comma();
        return to.ascii("{\"key\":\"").ascii(name).ascii("\",\"value\":");
    }

    private void own(String name, long value) {
        own(name).ascii("{\"stringValue\":");
        JsonText.string(record, value, to);
        to.ascii("}}");
    }

    private void own(String name, String value) {
        if (value != null) {
            own(name).ascii("{\"stringValue\":");
            JsonText.string(value, to);
            to.ascii("}}");
        }
    }

    @Override
    public void text(long name, long value) {
        begin(name).ascii("{\"stringValue\":");
        JsonText.string(record, value, to);
        end(name);
    }

    @Override
    public void integer(long name, long value) {
        begin(name).ascii("{\"intValue\":\"").number(value).ascii('"');
        end(name);
    }

    @Override
    public void real(long name, double value) {
        begin(name).ascii("{\"doubleValue\":");
        JsonText.real(value, to);
        end(name);
    }

    /** The protocol has no exact number for it. */
    @Override
    public void decimal(long name, BigDecimal value) {
        text(name, value);
    }

    @Override
    public void bool(long name, boolean value) {
        begin(name).ascii(value ? "{\"boolValue\":true" : "{\"boolValue\":false");
        end(name);
    }

    @Override
    public void time(long name, Instant value) {
        text(name, value);
    }

    @Override
    public void duration(long name, Duration value) {
        text(name, value);
    }

    /** @param value a value whose text consists of digits, letters and signs that are the same in a JSON string */
    private void text(long name, Object value) {
        begin(name).ascii("{\"stringValue\":\"").ascii(value.toString()).ascii('"');
        end(name);
    }

    /** The protocol represents null as an empty value. */
    @Override
    public void nothing(long name) {
        begin(name).ascii('{');
        end(name);
    }

    @Override
    public void beginGroup(long name) {
        beginTree(name, "{\"kvlistValue\":{\"values\":[");
    }

    @Override
    public void endGroup() {
        endTree();
    }

    @Override
    public void beginList(long name) {
        beginTree(name, "{\"arrayValue\":{\"values\":[");
    }

    @Override
    public void endList() {
        endTree();
    }

    private void beginTree(long name, String start) {
        begin(name).ascii(start);
        first = true;
        named.set(depth++, name != 0);
    }

    private void endTree() {
        first = false;
        to.ascii(named.get(--depth) ? "]}}}" : "]}}");
    }

    private Utf8Buffer begin(long name) {
        comma();
        if (name != 0) {
            to.ascii("{\"key\":");
            JsonText.string(record, name, to);
            to.ascii(",\"value\":");
        }
        return to;
    }

    private void comma() {
        if (!first) {
            to.ascii(',');
        }
        first = false;
    }

    /** Ends a value, and the pair that it belongs to. */
    private void end(long name) {
        to.ascii(name == 0 ? "}" : "}}");
    }
}
