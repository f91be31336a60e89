package dev.graphema.collector.otlp;

import dev.graphema.event.Draft;
import dev.graphema.event.Level;
import io.opentelemetry.proto.collector.trace.v1.ExportTraceServiceRequest;
import io.opentelemetry.proto.common.v1.InstrumentationScope;
import io.opentelemetry.proto.resource.v1.Resource;
import io.opentelemetry.proto.trace.v1.ResourceSpans;
import io.opentelemetry.proto.trace.v1.ScopeSpans;
import io.opentelemetry.proto.trace.v1.Span;
import io.opentelemetry.proto.trace.v1.Status;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** Spans as the ends of operations, so that trails show them; their events are events of their own. */
final class Spans {
    // The fields of ended operations, as dev.graphema.Operation documents them.
    private static final String ELAPSED = "elapsed";
    private static final String OUTCOME = "outcome";
    private static final String EXCEPTION = "exception";
    private static final String KIND_PREFIX = "SPAN_KIND_";

    private Spans() {}

    static List<Draft> of(ExportTraceServiceRequest request) {
        List<Draft> events = new ArrayList<>();
        for (ResourceSpans ofResource : request.getResourceSpansList()) {
            for (ScopeSpans ofScope : ofResource.getScopeSpansList()) {
                for (Span span : ofScope.getSpansList()) {
                    add(span, ofResource.getResource(), ofScope.getScope(), events);
                }
            }
        }
        return events;
    }

    private static void add(Span span, Resource resource, InstrumentationScope scope, List<Draft> events) {
        OtlpEvent end = new OtlpEvent(resource, scope, AttributeValues.of(span.getAttributesList()));
        for (Span.Event each : span.getEventsList()) {
            if (each.getName().equals(EXCEPTION)) {
                end.failure(AttributeValues.of(each.getAttributesList()));
            } else {
                events.add(within(each, span, resource, scope));
            }
        }
        boolean hasFailed = span.getStatus().getCode() == Status.StatusCode.STATUS_CODE_ERROR;
        end.time(span.getEndTimeUnixNano());
        end.level(hasFailed ? Level.ERROR : Level.INFO);
        end.message(span.getName());
        end.ids(span.getTraceId(), span.getSpanId(), span.getParentSpanId());
        end.field(ELAPSED, Duration.ofNanos(Math.max(0, span.getEndTimeUnixNano() - span.getStartTimeUnixNano())));
        end.field(OUTCOME, hasFailed ? "failure" : "success");
        String kind = span.getKind().name();
        if (kind.startsWith(KIND_PREFIX) && span.getKindValue() > Span.SpanKind.SPAN_KIND_INTERNAL_VALUE) {
            end.field("span.kind", kind.substring(KIND_PREFIX.length()).toLowerCase(Locale.ROOT));
        }
        if (!span.getStatus().getMessage().isEmpty()) {
            end.field("status.message", span.getStatus().getMessage());
        }
        events.add(end.finished());
    }

    private static Draft within(Span.Event event, Span span, Resource resource, InstrumentationScope scope) {
        OtlpEvent within = new OtlpEvent(resource, scope, AttributeValues.of(event.getAttributesList()));
        within.time(event.getTimeUnixNano());
        within.level(Level.INFO);
        within.message(event.getName());
        within.ids(span.getTraceId(), span.getSpanId(), span.getParentSpanId());
        return within.finished();
    }
}
