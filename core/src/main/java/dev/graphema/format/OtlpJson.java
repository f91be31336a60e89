package dev.graphema.format;

import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.event.FieldVisitor;
import dev.graphema.text.Utf8Buffer;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
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

    private final Attributes attributes = new Attributes();

    @Override
    public void write(Event event, Utf8Buffer to) {
        request(List.of(event), to);
        to.ascii('\n');
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
            resource(resource, to);
            to.ascii(signal.scopes);
            Separator separator = new Separator();
            scopes.forEach((scope, records) -> {
                separator.next(to);
                to.ascii("{\"scope\":{\"name\":");
                JsonText.string(scope, to);
                to.ascii(signal.records);
                Separator between = new Separator();
                for (Event event : records) {
                    between.next(to);
                    if (signal == Signal.LOGS) {
                        record(event, to);
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

    private static void resource(Resource resource, Utf8Buffer to) {
        to.ascii("{\"resource\":{\"attributes\":[{\"key\":\"service.name\",\"value\":{\"stringValue\":");
        // The name that the standard prescribes where none is known.
        JsonText.string(resource.service == null ? "unknown_service:java" : resource.service, to);
        to.ascii("}}");
        if (resource.instance != null) {
            to.ascii(",{\"key\":\"service.instance.id\",\"value\":{\"stringValue\":");
            JsonText.string(resource.instance, to);
            to.ascii("}}");
        }
        to.ascii("]}");
    }

    private void record(Event event, Utf8Buffer to) {
        to.ascii("{\"timeUnixNano\":\"").number(event.epochNanos());
        to.ascii("\",\"observedTimeUnixNano\":\"").number(event.epochNanos()).ascii('"');
        if (event.level() != null) {
            to.ascii(",\"severityNumber\":").number(event.level().severity());
            to.ascii(",\"severityText\":\"")
                    .ascii(event.level().text().toUpperCase(Locale.ROOT))
                    .ascii('"');
        }
        if (event.message() != null) {
            to.ascii(",\"body\":{\"stringValue\":");
            JsonText.string(event.message(), to);
            to.ascii('}');
        }
        attributes.write(event, to);
        if (event.trace() != null) {
            to.ascii(",\"traceId\":\"").ascii(event.trace().toString()).ascii('"');
        }
        if (event.span() != null) {
            to.ascii(",\"spanId\":\"").ascii(event.span().toString()).ascii('"');
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
        attributes.write(event, to);
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

    /** Writes a list of keys and values, in which nested fields are lists of keys and values. */
    private static final class Attributes implements FieldVisitor {
        private final Deque<Boolean> treeHasName = new ArrayDeque<>();
        private Utf8Buffer to;
        private boolean first;

        void write(Event event, Utf8Buffer to) {
            this.to = to;
            to.ascii(",\"attributes\":[");
            first = true;
            event.fields().visit(this);
            own("log.record.uid", event.id());
            own("thread.name", event.thread());
            own("graphema.parent_span", event.parent());
            if (event.sequence() != 0) {
                integer("graphema.sequence", event.sequence());
            }
            if (event.weight() != 1) {
                integer("graphema.weight", event.weight());
            }
            if (event.held()) {
                bool("graphema.held", true);
            }
            if (event.failure() != null) {
                failure(event.failure());
            }
            to.ascii(']');
        }

        /** Writes the attributes of a failure only. */
        void write(Failure failure, Utf8Buffer to) {
            this.to = to;
            to.ascii(",\"attributes\":[");
            first = true;
            failure(failure);
            to.ascii(']');
        }

        private void failure(Failure failure) {
            own("exception.type", failure.type());
            own("exception.message", failure.message());
            own("exception.stacktrace", FailureText.of(failure));
            own("graphema.fingerprint", failure.fingerprint());
        }

        private void own(String name, Object value) {
            if (value != null) {
                text(name, value.toString());
            }
        }

        @Override
        public void text(String name, String value) {
            begin(name).ascii("{\"stringValue\":");
            JsonText.string(value, to);
            to.ascii('}');
            end(name != null);
        }

        @Override
        public void integer(String name, long value) {
            begin(name).ascii("{\"intValue\":\"").number(value).ascii("\"}");
            end(name != null);
        }

        @Override
        public void real(String name, double value) {
            begin(name).ascii("{\"doubleValue\":");
            JsonText.real(value, to);
            to.ascii('}');
            end(name != null);
        }

        /** The protocol has no exact number for it. */
        @Override
        public void decimal(String name, BigDecimal value) {
            text(name, value.toString());
        }

        @Override
        public void bool(String name, boolean value) {
            begin(name).ascii(value ? "{\"boolValue\":true}" : "{\"boolValue\":false}");
            end(name != null);
        }

        @Override
        public void time(String name, Instant value) {
            text(name, value.toString());
        }

        @Override
        public void duration(String name, Duration value) {
            text(name, value.toString());
        }

        /** The protocol represents null as an empty value. */
        @Override
        public void nothing(String name) {
            begin(name).ascii("{}");
            end(name != null);
        }

        @Override
        public void beginGroup(String name) {
            begin(name).ascii("{\"kvlistValue\":{\"values\":[");
            first = true;
            treeHasName.push(name != null);
        }

        @Override
        public void endGroup() {
            endTree();
        }

        @Override
        public void beginList(String name) {
            begin(name).ascii("{\"arrayValue\":{\"values\":[");
            first = true;
            treeHasName.push(name != null);
        }

        @Override
        public void endList() {
            endTree();
        }

        private void endTree() {
            to.ascii("]}}");
            end(treeHasName.pop());
        }

        private Utf8Buffer begin(String name) {
            if (!first) {
                to.ascii(',');
            }
            first = false;
            if (name != null) {
                to.ascii("{\"key\":");
                JsonText.string(name, to);
                to.ascii(",\"value\":");
            }
            return to;
        }

        private void end(boolean hasName) {
            first = false;
            if (hasName) {
                to.ascii('}');
            }
        }
    }
}
