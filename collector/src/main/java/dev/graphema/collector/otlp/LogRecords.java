package dev.graphema.collector.otlp;

import com.google.protobuf.ByteString;
import dev.graphema.event.Draft;
import dev.graphema.event.Level;
import io.opentelemetry.proto.collector.logs.v1.ExportLogsServiceRequest;
import io.opentelemetry.proto.common.v1.InstrumentationScope;
import io.opentelemetry.proto.logs.v1.LogRecord;
import io.opentelemetry.proto.logs.v1.ResourceLogs;
import io.opentelemetry.proto.logs.v1.ScopeLogs;
import io.opentelemetry.proto.resource.v1.Resource;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** Log records as events. */
final class LogRecords {
    /** How many numbers of severity belong to one level. */
    private static final int NUMBERS_OF_LEVEL = 4;

    private static final Level[] LEVELS = {Level.TRACE, Level.DEBUG, Level.INFO, Level.WARN, Level.ERROR, Level.FATAL};

    private LogRecords() {}

    static List<Draft> of(ExportLogsServiceRequest request) {
        List<Draft> events = new ArrayList<>();
        for (ResourceLogs ofResource : request.getResourceLogsList()) {
            for (ScopeLogs ofScope : ofResource.getScopeLogsList()) {
                for (LogRecord record : ofScope.getLogRecordsList()) {
                    events.add(event(record, ofResource.getResource(), ofScope.getScope()));
                }
            }
        }
        return events;
    }

    private static Draft event(LogRecord record, Resource resource, InstrumentationScope scope) {
        OtlpEvent event = new OtlpEvent(resource, scope, AttributeValues.of(record.getAttributesList()));
        event.time(record.getTimeUnixNano() != 0 ? record.getTimeUnixNano() : record.getObservedTimeUnixNano());
        severity(record, event);
        body(record, event);
        if (!record.getEventName().isEmpty()) {
            event.field("event.name", record.getEventName());
        }
        event.ids(record.getTraceId(), record.getSpanId(), ByteString.EMPTY);
        return event.finished();
    }

    private static void severity(LogRecord record, OtlpEvent event) {
        int number = record.getSeverityNumberValue();
        Level level = number > 0 && number <= LEVELS.length * NUMBERS_OF_LEVEL
                ? LEVELS[(number - 1) / NUMBERS_OF_LEVEL]
                : Level.of(record.getSeverityText().toLowerCase(Locale.ROOT));
        event.level(level == Level.OFF ? null : level);
        String text = record.getSeverityText();
        if (!text.isEmpty() && (level == null || !level.text().equalsIgnoreCase(text))) {
            event.field("severity.text", text);
        }
    }

    /** A body with structure is a field. */
    private static void body(LogRecord record, OtlpEvent event) {
        Object body = AttributeValues.of(record.getBody());
        if (body instanceof Map<?, ?> || body instanceof List<?>) {
            event.field("body", body);
        } else if (body != null) {
            event.message(body.toString());
        }
    }
}
