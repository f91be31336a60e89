package dev.graphema.collector.otlp;

import com.google.protobuf.ByteString;
import dev.graphema.event.Draft;
import dev.graphema.event.Failure;
import dev.graphema.event.Level;
import dev.graphema.lines.stack.StackTraces;
import dev.graphema.text.Times;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import io.opentelemetry.proto.common.v1.InstrumentationScope;
import io.opentelemetry.proto.resource.v1.Resource;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The event of a log record or span: what its attributes mean by the semantic conventions of OpenTelemetry, and those that {@link
 * dev.graphema.format.OtlpJson} writes. All other attributes are fields.
 */
final class OtlpEvent {
    private static final Pattern EVENT_ID = Pattern.compile("([0-9a-f]{16})-([0-9]{1,18})");
    private static final String UNKNOWN_SERVICE = "unknown_service";
    private static final int TRACE_BYTES = 16;
    private static final int SPAN_BYTES = 8;

    private final Draft draft = Draft.ofWritten();

    /** What is not taken yet. */
    private final Map<String, Object> attributes = new LinkedHashMap<>();

    private SpanId parent;

    /** @param own the attributes of the record, which replace those of the resource with the same name */
    OtlpEvent(Resource resource, InstrumentationScope scope, Map<String, Object> own) {
        attributes.putAll(AttributeValues.of(resource.getAttributesList()));
        attributes.putAll(AttributeValues.of(scope.getAttributesList()));
        attributes.putAll(own);
        String service = text("service.name");
        draft.service(service == null || service.startsWith(UNKNOWN_SERVICE) ? null : service);
        draft.instance(text("service.instance.id"));
        draft.logger(scope.getName().isEmpty() ? null : scope.getName());
        if (!scope.getVersion().isEmpty()) {
            attributes.putIfAbsent("scope.version", scope.getVersion());
        }
        draft.thread(text("thread.name"));
        identity();
        failure();
    }

    /** Takes an attribute that is a text; null if it is none. */
    private String text(String name) {
        return attributes.get(name) instanceof String text && !text.isEmpty() ? taken(name, text) : null;
    }

    /** Takes an attribute that is a whole number. */
    private long number(String name, long missing) {
        return attributes.get(name) instanceof Long number ? taken(name, number) : missing;
    }

    private <T> T taken(String name, T value) {
        attributes.remove(name);
        return value;
    }

    private void identity() {
        draft.sequence(number("graphema.sequence", 0));
        draft.weight(Math.max(1, number("graphema.weight", 1)));
        if (Boolean.TRUE.equals(attributes.get("graphema.held"))) {
            attributes.remove("graphema.held");
            draft.held(true);
        }
        if (attributes.get("graphema.parent_span") instanceof String text) {
            parent = SpanId.parse(text);
            attributes.remove("graphema.parent_span");
        }
        Matcher id = attributes.get("log.record.uid") instanceof String text ? EVENT_ID.matcher(text) : null;
        if (id != null && id.matches()) {
            attributes.remove("log.record.uid");
            draft.run(id.group(1)).sequence(Long.parseLong(id.group(2)));
        }
    }

    private void failure() {
        String whole = text("exception.stacktrace");
        String type = text("exception.type");
        if (whole == null && type == null) {
            return; // a message of an exception without one is a field
        }
        draft.failure(failure(type, text("exception.message"), whole));
        draft.fingerprint(text("graphema.fingerprint"));
    }

    private static Failure failure(String type, String message, String whole) {
        Failure read = whole == null ? null : StackTraces.parse(whole);
        String name = type != null ? type : read != null ? read.type() : "exception";
        if (read == null) {
            return new Failure(name, message != null ? message : whole, List.of(), 0, 0, null, List.of());
        }
        return new Failure(
                name,
                message == null ? read.message() : message,
                read.frames(),
                read.sharedFrames(),
                read.omittedFrames(),
                read.cause(),
                read.suppressed());
    }

    /** Sets the failure from the attributes of another record. */
    void failure(Map<String, Object> from) {
        attributes.putAll(from);
        failure();
    }

    /** Adds a field, unless there is an attribute of that name. */
    void field(String name, Object value) {
        attributes.putIfAbsent(name, value);
    }

    /** @param unixNano 0 for unknown, so that the time of arrival counts */
    void time(long unixNano) {
        draft.time(unixNano == 0 ? Times.now() : unixNano);
    }

    /** Sets ids; those of a wrong length are none, as the standard demands. */
    void ids(ByteString trace, ByteString span, ByteString parentSpan) {
        TraceId traceId = trace.size() == TRACE_BYTES ? TraceId.parse(digits(trace)) : null;
        SpanId spanId = span.size() == SPAN_BYTES ? SpanId.parse(digits(span)) : null;
        SpanId parentId = parentSpan.size() == SPAN_BYTES ? SpanId.parse(digits(parentSpan)) : parent;
        draft.trace(traceId, spanId, parentId);
    }

    private static String digits(ByteString id) {
        return HexFormat.of().formatHex(id.toByteArray());
    }

    void level(Level level) {
        draft.level(level);
    }

    void message(String message) {
        draft.message(message);
    }

    /** Returns the event, whose fields are all attributes that were not taken. */
    Draft finished() {
        return draft.fields(fields -> attributes.forEach(fields::put));
    }
}
