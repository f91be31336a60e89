package dev.graphema.format;

import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.event.FieldVisitor;
import dev.graphema.event.Fields;
import dev.graphema.event.Frame;
import dev.graphema.event.Times;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;

/**
 * One JSON object (RFC 8259) on one line for each event, in UTF-8:
 *
 * <pre>{@code
 * {"time":"2026-05-15T06:31:02.123456789Z","level":"error","service":"deck","instance":"deck-2",
 *  "logger":"skerry.deck.Lanes","message":"lane not free","trace":"4bf9…","span":"00f0…","parent":"b7ad…",
 *  "thread":"deck-3","sequence":812,"weight":20,"fields":{"lane":"A3","waited":"PT0.25S"},
 *  "fingerprint":"91c0…","failure":{"type":"…","message":"…","frames":["…"],"shared":3,"omitted":9,"cause":{…},"suppressed":[{…}]}}
 * }</pre>
 *
 * <p>What an event does not have is left out; the weight, too, when it is 1. Times are RFC 3339 in UTC, durations ISO
 * 8601 ({@code PT0.25S}). Names and values of fields stand below {@code fields}, so that no field can pass for an
 * attribute.
 */
public final class JsonLines implements Format {
    private final Rfc3339 times = new Rfc3339();
    private final Rfc3339 fieldTimes = new Rfc3339();
    private final FieldsAsJson fieldsAsJson = new FieldsAsJson();

    @Override
    public void write(Event event, Utf8Buffer to) {
        to.ascii("{\"time\":\"");
        times.write(event.epochNanos(), to);
        to.ascii('"');
        if (event.level() != null) {
            to.ascii(",\"level\":\"").ascii(event.level().text()).ascii('"');
        }
        text(",\"service\":", event.service(), to);
        text(",\"instance\":", event.instance(), to);
        text(",\"logger\":", event.logger(), to);
        text(",\"message\":", event.message(), to);
        text(",\"trace\":", event.trace(), to);
        text(",\"span\":", event.span(), to);
        text(",\"parent\":", event.parent(), to);
        text(",\"thread\":", event.thread(), to);
        if (event.sequence() != 0) {
            to.ascii(",\"sequence\":").number(event.sequence());
        }
        if (event.weight() != 1) {
            to.ascii(",\"weight\":").number(event.weight());
        }
        if (!event.fields().isEmpty()) {
            to.ascii(",\"fields\":");
            fieldsAsJson.write(event.fields(), to);
        }
        if (event.failure() != null) {
            to.ascii(",\"fingerprint\":\"").ascii(event.failure().fingerprint()).ascii("\",\"failure\":");
            failure(event.failure(), to);
        }
        to.ascii("}\n");
    }

    private static void text(String name, Object value, Utf8Buffer to) {
        if (value != null) {
            to.ascii(name);
            JsonText.string(value.toString(), to);
        }
    }

    private static void failure(Failure failure, Utf8Buffer to) {
        to.ascii("{\"type\":");
        JsonText.string(failure.type(), to);
        text(",\"message\":", failure.message(), to);
        to.ascii(",\"frames\":[");
        char before = 0;
        for (Frame frame : failure.frames()) {
            before = separated(before, to);
            JsonText.string(frame.toString(), to);
        }
        to.ascii(']');
        if (failure.sharedFrames() > 0) {
            to.ascii(",\"shared\":").number(failure.sharedFrames());
        }
        if (failure.omittedFrames() > 0) {
            to.ascii(",\"omitted\":").number(failure.omittedFrames());
        }
        if (failure.cause() != null) {
            to.ascii(",\"cause\":");
            failure(failure.cause(), to);
        }
        if (!failure.suppressed().isEmpty()) {
            to.ascii(",\"suppressed\":[");
            before = 0;
            for (Failure each : failure.suppressed()) {
                before = separated(before, to);
                failure(each, to);
            }
            to.ascii(']');
        }
        to.ascii('}');
    }

    private static char separated(char before, Utf8Buffer to) {
        if (before != 0) {
            to.ascii(before);
        }
        return ',';
    }

    private final class FieldsAsJson implements FieldVisitor {
        private Utf8Buffer to;
        private boolean first;

        void write(Fields fields, Utf8Buffer to) {
            this.to = to;
            open('{');
            fields.visit(this);
            close('}');
        }

        @Override
        public void text(String name, String value) {
            name(name);
            JsonText.string(value, to);
        }

        @Override
        public void integer(String name, long value) {
            name(name);
            to.number(value);
        }

        @Override
        public void real(String name, double value) {
            name(name);
            JsonText.real(value, to);
        }

        @Override
        public void decimal(String name, BigDecimal value) {
            name(name);
            to.ascii(value.toString());
        }

        @Override
        public void bool(String name, boolean value) {
            name(name);
            to.ascii(value ? "true" : "false");
        }

        @Override
        public void time(String name, Instant value) {
            name(name);
            to.ascii('"');
            fieldTimes.write(Times.epochNanos(value), to);
            to.ascii('"');
        }

        @Override
        public void duration(String name, Duration value) {
            name(name);
            to.ascii('"').ascii(value.toString()).ascii('"');
        }

        @Override
        public void nothing(String name) {
            name(name);
            to.ascii("null");
        }

        @Override
        public void beginGroup(String name) {
            name(name);
            open('{');
        }

        @Override
        public void endGroup() {
            close('}');
        }

        @Override
        public void beginList(String name) {
            name(name);
            open('[');
        }

        @Override
        public void endList() {
            close(']');
        }

        private void open(char bracket) {
            to.ascii(bracket);
            first = true;
        }

        private void close(char bracket) {
            to.ascii(bracket);
            first = false;
        }

        private void name(String name) {
            if (!first) {
                to.ascii(',');
            }
            first = false;
            if (name != null) {
                JsonText.string(name, to);
                to.ascii(':');
            }
        }
    }
}
