package dev.graphema.format;

import dev.graphema.event.Event;
import dev.graphema.event.EventBytes;
import dev.graphema.event.EventRecord;
import dev.graphema.event.Failure;
import dev.graphema.event.Level;
import dev.graphema.text.Utf8Buffer;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.IntFunction;
import java.util.stream.IntStream;

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

    /** The field of requests and calls, as dev.graphema.web documents it. */
    private static final String METHOD = "method";

    /** Longer operations are not spans, whose times have 64 bits. */
    private static final Duration LONGEST = Duration.ofDays(100 * 365);

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
    private final EndedOperation operation = new EndedOperation();

    @Override
    public void write(Event event, Utf8Buffer to) {
        bytes.write(event);
        write(record.read(bytes.array(), 0, bytes.length()), to);
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

    /**
     * Writes one request with all events as log records, grouped by resource and scope, each group in order.
     *
     * @param count the number of events
     * @param events returns an event by its index, valid until the next call
     */
    public void request(int count, IntFunction<EventRecord> events, Utf8Buffer to) {
        request(IntStream.range(0, count), events, Signal.LOGS, to);
    }

    /**
     * Writes one {@code ExportTraceServiceRequest} with ended operations as spans, if there are any among the events. The message is
     * the name; the span ends at the time of the event and begins {@code elapsed} before it. A failed one has the status error, and
     * its exception as an event of the span. The span of a request to a server and of a call to another one have these kinds.
     *
     * @param count the number of events
     * @param events returns an event by its index, valid until the next call
     * @return the number of spans; if 0, nothing was written
     */
    public int spans(int count, IntFunction<EventRecord> events, Utf8Buffer to) {
        int[] spans = IntStream.range(0, count)
                .filter(i -> operation.read(events.apply(i)))
                .toArray();
        if (spans.length > 0) {
            request(IntStream.of(spans), events, Signal.SPANS, to);
        }
        return spans.length;
    }

    private void request(IntStream indices, IntFunction<EventRecord> events, Signal signal, Utf8Buffer to) {
        Map<Resource, Map<String, List<Integer>>> groups = new LinkedHashMap<>();
        indices.forEach(index -> {
            EventRecord event = events.apply(index);
            Resource resource = new Resource(event.string(event.service()), event.string(event.instance()));
            String scope = event.logger() == 0 ? "" : event.string(event.logger());
            groups.computeIfAbsent(resource, missing -> new LinkedHashMap<>())
                    .computeIfAbsent(scope, missing -> new ArrayList<>())
                    .add(index);
        });
        to.ascii(signal.start);
        Separator resources = new Separator();
        groups.forEach((resource, scopes) -> {
            resources.next(to);
            resource(events.apply(first(scopes.values().iterator().next())), to);
            to.ascii(signal.scopes);
            Separator separator = new Separator();
            scopes.forEach((scope, records) -> {
                separator.next(to);
                scope(events.apply(first(records)), to);
                to.ascii(signal.records);
                Separator between = new Separator();
                for (int index : records) {
                    between.next(to);
                    EventRecord event = events.apply(index);
                    if (signal == Signal.LOGS) {
                        record(event, to);
                    } else {
                        operation.read(event);
                        span(event, to);
                    }
                }
                to.ascii("]}");
            });
            to.ascii("]}");
        });
        to.ascii("]}");
    }

    private static int first(List<Integer> indices) {
        return indices.get(0);
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

    /** Writes the operation that was read. */
    private void span(EventRecord event, Utf8Buffer to) {
        to.ascii("{\"traceId\":\"").hex(event.traceHigh()).hex(event.traceLow());
        to.ascii("\",\"spanId\":\"").hex(event.span());
        if (event.hasParent()) {
            to.ascii("\",\"parentSpanId\":\"").hex(event.parent());
        }
        to.ascii("\",\"flags\":").number(SAMPLED);
        to.ascii(",\"name\":");
        if (event.message() == 0) {
            to.ascii("\"\"");
        } else {
            JsonText.string(event, event.message(), to);
        }
        to.ascii(",\"kind\":").number(operation.kind());
        to.ascii(",\"startTimeUnixNano\":\"").number(event.epochNanos() - operation.elapsed.toNanos());
        to.ascii("\",\"endTimeUnixNano\":\"").number(event.epochNanos()).ascii('"');
        attributes.write(event, to);
        Failure failure = event.failure();
        if (failure != null) {
            to.ascii(",\"events\":[{\"name\":\"exception\",\"timeUnixNano\":\"")
                    .number(event.epochNanos())
                    .ascii('"');
            attributes.write(failure, to);
            to.ascii("}]");
        }
        if (!operation.isSuccess) {
            to.ascii(",\"status\":{\"code\":2");
            if (failure != null && failure.message() != null) {
                to.ascii(",\"message\":");
                JsonText.string(failure.message(), to);
            }
            to.ascii('}');
        }
        to.ascii('}');
    }

    /** An event that may be the end of an operation, which is a span. */
    private static final class EndedOperation implements EventRecord.Visitor {
        private EventRecord event;
        private int depth;
        private Duration elapsed;
        private boolean hasOutcome;
        private boolean isSuccess;
        private boolean hasMethod;

        /** Returns whether the event is the end of an operation. */
        boolean read(EventRecord record) {
            event = record;
            depth = 0;
            elapsed = null;
            hasOutcome = false;
            hasMethod = false;
            if (!record.hasTrace() || !record.hasSpan() || !record.hasTime()) {
                return false;
            }
            record.visit(this);
            return hasOutcome && elapsed != null && elapsed.compareTo(LONGEST) < 0;
        }

        /** Returns the number of the kind of a span. */
        int kind() {
            if (!hasMethod) {
                return 1; // internal
            }
            return event.isText(event.message(), "request") ? 2 : event.isText(event.message(), "call") ? 3 : 1;
        }

        @Override
        public void text(long name, long value) {
            if (depth > 0) {
                return;
            }
            if (event.isText(name, OUTCOME)) {
                hasOutcome = true;
                isSuccess = event.isText(value, SUCCESS);
            }
            hasMethod |= event.isText(name, METHOD);
        }

        @Override
        public void duration(long name, Duration value) {
            if (depth == 0 && event.isText(name, ELAPSED)) {
                elapsed = value;
            }
        }

        @Override
        public void beginGroup(long name) {
            depth++;
        }

        @Override
        public void endGroup() {
            depth--;
        }

        @Override
        public void beginList(long name) {
            depth++;
        }

        @Override
        public void endList() {
            depth--;
        }
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
