package dev.graphema.format;

import dev.graphema.event.Event;
import dev.graphema.event.EventBytes;
import dev.graphema.event.EventRecord;
import dev.graphema.event.Level;
import dev.graphema.text.Utf8Buffer;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;

/**
 * Events as log records of the OpenTelemetry protocol (OTLP 1.x) in its JSON encoding. As a format, one {@code
 * ExportLogsServiceRequest} with one record on each line; {@link #request} makes one request of many events.
 *
 * <p>Service and instance are the resource ({@code service.name}, {@code service.instance.id}), the logger is the scope, the
 * message the body. Numbers of 64 bits are texts of digits and ids are hexadecimal, as the encoding demands. A failure
 * becomes {@code exception.type}, {@code exception.message} and {@code exception.stacktrace}, the thread {@code
 * thread.name}, the event's id {@code log.record.uid}, all by the semantic conventions; what they have no name for begins
 * with {@code graphema.}. For one thread.
 */
public final class OtlpJson implements Format {
    // The fields of ended operations, as dev.graphema.Operation documents them.
    private static final String ELAPSED = "elapsed";
    private static final String OUTCOME = "outcome";
    private static final String SUCCESS = "success";

    /** The flag of W3C Trace Context: what arrives here was not dropped. */
    private static final int SAMPLED = 1;

    /** The members of each level. */
    private static final String[] SEVERITIES = new String[Level.values().length];

    static {
        for (Level level : Level.values()) {
            SEVERITIES[level.ordinal()] = ",\"severityNumber\":" + level.severity() + ",\"severityText\":\""
                    + level.text().toUpperCase(Locale.ROOT) + '"';
        }
    }

    private final OtlpAttributes attributes = new OtlpAttributes();
    private final EventBytes bytes = new EventBytes();
    private final EventRecord record = new EventRecord();

    @Override
    public void write(Event event, Utf8Buffer to) {
        write(encoded(event), to);
    }

    @Override
    public void write(EventRecord event, Utf8Buffer to) {
        to.ascii(Signal.LOGS.start);
        resource(event, to);
        to.ascii(Signal.LOGS.scopes);
        scope(event, to);
        to.ascii(Signal.LOGS.records);
        record(event, to);
        to.ascii("]}]}]}\n");
    }

    private EventRecord encoded(Event event) {
        bytes.write(event);
        return record.read(bytes.array(), 0, bytes.length());
    }

    /** Writes one request with all events as log records, grouped by resource and scope, each group in order. */
    public void request(List<Event> events, Utf8Buffer to) {
        request(events, Signal.LOGS, to);
    }

    /**
     * Returns whether an event is the end of an operation, which is a span.
     *
     * @see #spans
     */
    public static boolean isSpan(Event event) {
        return event.trace() != null
                && event.span() != null
                && event.hasTime()
                && event.fields().get(ELAPSED) instanceof Duration
                && event.fields().get(OUTCOME) instanceof String;
    }

    /**
     * Writes one {@code ExportTraceServiceRequest} with ended operations as spans. The message is the name; the span ends at the
     * time of the event and begins {@code elapsed} before it. A failed one has the status error, and its exception as an event of
     * the span. The span of a request to a server and of a call to another one have these kinds.
     *
     * @param operations events for which {@link #isSpan} returns true
     */
    public void spans(List<Event> operations, Utf8Buffer to) {
        request(operations, Signal.SPANS, to);
    }

    private void request(List<Event> events, Signal signal, Utf8Buffer to) {
        Map<Resource, Map<String, List<Event>>> groups = new LinkedHashMap<>();
        for (Event event : events) {
            groups.computeIfAbsent(new Resource(event.service(), event.instance()), resource -> new LinkedHashMap<>())
                    .computeIfAbsent(Objects.requireNonNullElse(event.logger(), ""), logger -> new ArrayList<>())
                    .add(event);
        }
        to.ascii(signal.start);
        Separator resources = new Separator();
        groups.forEach((resource, scopes) -> {
            resources.next(to);
            resource(encoded(first(scopes.values().iterator().next())), to);
            to.ascii(signal.scopes);
            Separator separator = new Separator();
            scopes.forEach((scope, records) -> {
                separator.next(to);
                scope(encoded(first(records)), to);
                to.ascii(signal.records);
                Separator between = new Separator();
                for (Event event : records) {
                    between.next(to);
                    if (signal == Signal.LOGS) {
                        record(encoded(event), to);
                    } else {
                        span(event, to);
                    }
                }
                to.ascii("]}");
            });
            to.ascii("]}");
        });
        to.ascii("]}");
    }

    private static Event first(List<Event> events) {
        return events.get(0);
    }

    private static void resource(EventRecord event, Utf8Buffer to) {
        to.ascii("{\"resource\":{\"attributes\":[{\"key\":\"service.name\",\"value\":{\"stringValue\":");
        if (event.service() == 0) {
            to.ascii("\"unknown_service:java\""); // the name that the standard prescribes where none is known
        } else {
            JsonText.string(event, event.service(), to);
        }
        to.ascii("}}");
        if (event.instance() != 0) {
            to.ascii(",{\"key\":\"service.instance.id\",\"value\":{\"stringValue\":");
            JsonText.string(event, event.instance(), to);
            to.ascii("}}");
        }
        to.ascii("]}");
    }

    private static void scope(EventRecord event, Utf8Buffer to) {
        to.ascii("{\"scope\":{\"name\":");
        if (event.logger() == 0) {
            to.ascii("\"\"");
        } else {
            JsonText.string(event, event.logger(), to);
        }
    }

    private void record(EventRecord event, Utf8Buffer to) {
        long time = event.epochNanos();
        to.ascii("{\"timeUnixNano\":\"").number(time).ascii("\",\"observedTimeUnixNano\":\"");
        to.number(time).ascii('"');
        if (event.level() != null) {
            to.ascii(SEVERITIES[event.level().ordinal()]);
        }
        if (event.message() != 0) {
            to.ascii(",\"body\":{\"stringValue\":");
            JsonText.string(event, event.message(), to);
            to.ascii('}');
        }
        attributes.write(event, to);
        if (event.hasTrace()) {
            to.ascii(",\"traceId\":\"")
                    .hex(event.traceHigh())
                    .hex(event.traceLow())
                    .ascii('"');
        }
        if (event.hasSpan()) {
            to.ascii(",\"spanId\":\"").hex(event.span()).ascii('"');
        }
        to.ascii('}');
    }

    private void span(Event event, Utf8Buffer to) {
        boolean hasFailed = !SUCCESS.equals(event.fields().get(OUTCOME));
        Duration elapsed = (Duration) event.fields().get(ELAPSED);
        to.ascii("{\"traceId\":\"").ascii(event.trace().toString());
        to.ascii("\",\"spanId\":\"").ascii(event.span().toString());
        if (event.parent() != null) {
            to.ascii("\",\"parentSpanId\":\"").ascii(event.parent().toString());
        }
        to.ascii("\",\"flags\":").number(SAMPLED);
        to.ascii(",\"name\":");
        JsonText.string(Objects.requireNonNullElse(event.message(), ""), to);
        to.ascii(",\"kind\":").number(kind(event));
        to.ascii(",\"startTimeUnixNano\":\"").number(event.epochNanos() - elapsed.toNanos());
        to.ascii("\",\"endTimeUnixNano\":\"").number(event.epochNanos()).ascii('"');
        attributes.write(encoded(event), to);
        if (event.failure() != null) {
            to.ascii(",\"events\":[{\"name\":\"exception\",\"timeUnixNano\":\"")
                    .number(event.epochNanos())
                    .ascii('"');
            attributes.write(event.failure(), to);
            to.ascii("}]");
        }
        if (hasFailed) {
            to.ascii(",\"status\":{\"code\":2");
            if (event.failure() != null && event.failure().message() != null) {
                to.ascii(",\"message\":");
                JsonText.string(event.failure().message(), to);
            }
            to.ascii('}');
        }
        to.ascii('}');
    }

    /** Returns the number of the kind of a span. */
    private static int kind(Event event) {
        if (!event.fields().has("method")) {
            return 1; // internal
        }
        return "request".equals(event.message()) ? 2 : "call".equals(event.message()) ? 3 : 1;
    }

    /** What a request contains. */
    private enum Signal {
        LOGS("{\"resourceLogs\":[", ",\"scopeLogs\":[", "},\"logRecords\":["),
        SPANS("{\"resourceSpans\":[", ",\"scopeSpans\":[", "},\"spans\":[");

        private final String start;
        private final String scopes;
        private final String records;

        Signal(String start, String scopes, String records) {
            this.start = start;
            this.scopes = scopes;
            this.records = records;
        }
    }

    private record Resource(String service, String instance) {}

    /** Writes a comma, except before the first element. */
    private static final class Separator {
        private boolean needed;

        void next(Utf8Buffer to) {
            if (needed) {
                to.ascii(',');
            }
            needed = true;
        }
    }
}
