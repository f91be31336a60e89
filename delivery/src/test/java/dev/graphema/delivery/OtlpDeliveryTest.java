package dev.graphema.delivery;

import static org.awaitility.Awaitility.await;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.google.protobuf.InvalidProtocolBufferException;
import com.google.protobuf.util.JsonFormat;
import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.Operation;
import dev.graphema.batch.BatchSink;
import dev.graphema.event.Level;
import dev.graphema.settings.SinkSettings;
import io.opentelemetry.proto.collector.logs.v1.ExportLogsServiceRequest;
import io.opentelemetry.proto.collector.trace.v1.ExportTraceServiceRequest;
import io.opentelemetry.proto.common.v1.AnyValue;
import io.opentelemetry.proto.common.v1.KeyValue;
import io.opentelemetry.proto.logs.v1.LogRecord;
import io.opentelemetry.proto.logs.v1.ResourceLogs;
import io.opentelemetry.proto.logs.v1.SeverityNumber;
import io.opentelemetry.proto.trace.v1.Span;
import io.opentelemetry.proto.trace.v1.Status;
import java.io.IOException;
import java.math.BigDecimal;
import java.net.URI;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Base64;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What is sent is read by the protocol's own published messages. */
class OtlpDeliveryTest {
    private static final Duration LIMIT = Duration.ofMinutes(2);

    @TempDir
    Path folder;

    @Test
    void requestsAreReadByTheProtocolsOwnMessages() throws IOException {
        try (StandIn receiver = new StandIn();
                Graphema graphema = start(receiver)) {
            Instant before = Instant.now();
            Logger lanes = graphema.logger("skerry.deck.Lanes");
            try (Operation operation = lanes.operation("reserve deck space")) {
                lanes.warn(
                        "lane \u0007 not free\nreally",
                        f -> f.put("lane", "A3")
                                .put("wait", 250)
                                .put("share", 0.5)
                                .put("nan", Double.NaN)
                                .put("coach", true)
                                .put("none", (String) null)
                                .put("fare", new BigDecimal("12345678901234567890.25"))
                                .put("waited", Duration.ofMillis(250))
                                .put("lanes", List.of("A1", List.of(2, Map.of("x", 1)), 3))
                                .group("passenger", g -> g.put("seats", 2).group("g", h -> h.put("i", "j"))));
                operation.succeed();
            }
            graphema.logger("skerry.deck.Plan")
                    .error("deck space refused", new IllegalStateException("no lane", new RuntimeException("x")));
            graphema.flush(LIMIT);

            StandIn.Request request = receiver.taken.get(0);
            assertEquals("POST /v1/logs HTTP/1.1", request.headers().get(":first"));
            assertEquals("application/json", request.headers().get("content-type"));
            ResourceLogs resource = message(request.text()).getResourceLogs(0);
            assertEquals(
                    Map.of("service.name", "deck", "service.instance.id", "deck-2"),
                    resource.getResource().getAttributesList().stream()
                            .collect(Collectors.toMap(
                                    KeyValue::getKey, each -> each.getValue().getStringValue())));
            assertEquals(
                    List.of("skerry.deck.Lanes", "skerry.deck.Plan"),
                    resource.getScopeLogsList().stream()
                            .map(scope -> scope.getScope().getName())
                            .toList());

            LogRecord warning = resource.getScopeLogs(0).getLogRecords(0);
            assertEquals(SeverityNumber.SEVERITY_NUMBER_WARN, warning.getSeverityNumber());
            assertEquals("WARN", warning.getSeverityText());
            assertEquals("lane \u0007 not free\nreally", warning.getBody().getStringValue());
            Instant time = Instant.ofEpochSecond(0, warning.getTimeUnixNano());
            assertTrue(!time.isBefore(before.minusMillis(1)) && !time.isAfter(Instant.now()), time.toString());
            assertEquals(16, warning.getTraceId().size());
            assertEquals(8, warning.getSpanId().size());

            Map<String, AnyValue> fields = attributes(warning);
            assertEquals("A3", fields.get("lane").getStringValue());
            assertEquals(250, fields.get("wait").getIntValue());
            assertEquals(0.5, fields.get("share").getDoubleValue());
            assertTrue(Double.isNaN(fields.get("nan").getDoubleValue()));
            assertTrue(fields.get("coach").getBoolValue());
            assertEquals(AnyValue.ValueCase.VALUE_NOT_SET, fields.get("none").getValueCase());
            assertEquals("12345678901234567890.25", fields.get("fare").getStringValue());
            assertEquals("PT0.25S", fields.get("waited").getStringValue());
            assertEquals("A1", fields.get("lanes").getArrayValue().getValues(0).getStringValue());
            assertEquals(
                    1,
                    fields.get("lanes")
                            .getArrayValue()
                            .getValues(1)
                            .getArrayValue()
                            .getValues(1)
                            .getKvlistValue()
                            .getValues(0)
                            .getValue()
                            .getIntValue());
            KeyValue inner = fields.get("passenger").getKvlistValue().getValues(1);
            assertEquals("g", inner.getKey());
            assertEquals(
                    "j",
                    inner.getValue().getKvlistValue().getValues(0).getValue().getStringValue());
            assertTrue(fields.get("log.record.uid").getStringValue().matches("[0-9a-f]{16}-[0-9]+"));

            Map<String, AnyValue> failure = attributes(resource.getScopeLogs(1).getLogRecords(0));
            assertEquals(
                    "java.lang.IllegalStateException",
                    failure.get("exception.type").getStringValue());
            assertEquals("no lane", failure.get("exception.message").getStringValue());
            assertTrue(failure.get("exception.stacktrace")
                    .getStringValue()
                    .contains("Caused by: java.lang.RuntimeException: x"));
        }
    }

    @Test
    void endedOperationsAreSpans() throws IOException {
        try (StandIn receiver = new StandIn();
                Graphema graphema = startWithTraces(receiver)) {
            Logger log = graphema.logger("skerry.deck");
            assertThrows(
                    IllegalStateException.class,
                    () -> log.perform("request", request -> {
                        request.put("method", "POST");
                        log.perform("reserve lane", reserve -> {
                            reserve.put("lane", "A3");
                            log.info("lane taken");
                            throw new IllegalStateException("taken");
                        });
                    }));
            log.measure("count places", () -> 3);
            graphema.flush(LIMIT);

            // On a busy machine, the events are in several batches: of each, the spans are sent first.
            List<Span> spans = new ArrayList<>();
            for (int i = 0; i < receiver.taken.size(); i++) {
                StandIn.Request sent = receiver.taken.get(i);
                if (sent.headers().get(":first").equals("POST /v1/traces HTTP/1.1")) {
                    assertEquals(
                            "POST /v1/logs HTTP/1.1",
                            receiver.taken.get(i + 1).headers().get(":first"));
                    spans.addAll(traces(sent.text())
                            .getResourceSpans(0)
                            .getScopeSpans(0)
                            .getSpansList());
                }
            }
            assertEquals(
                    List.of("reserve lane", "request", "count places"),
                    spans.stream().map(Span::getName).toList());
            Span lane = spans.get(0);
            Span request = spans.get(1);
            assertEquals(request.getSpanId(), lane.getParentSpanId());
            assertEquals(request.getTraceId(), lane.getTraceId());
            assertTrue(request.getParentSpanId().isEmpty());
            assertEquals(Span.SpanKind.SPAN_KIND_SERVER, request.getKind());
            assertEquals(Span.SpanKind.SPAN_KIND_INTERNAL, lane.getKind());
            assertEquals(1, lane.getFlags(), "sampled");
            assertTrue(lane.getStartTimeUnixNano() < lane.getEndTimeUnixNano());
            assertEquals(Status.StatusCode.STATUS_CODE_ERROR, lane.getStatus().getCode());
            assertEquals("taken", lane.getStatus().getMessage());
            assertEquals("exception", lane.getEvents(0).getName());
            assertTrue(lane.getEvents(0).getAttributesList().stream()
                    .anyMatch(each -> each.getKey().equals("exception.type")
                            && each.getValue().getStringValue().equals("java.lang.IllegalStateException")));
            assertEquals("", request.getStatus().getMessage(), "the failure was recorded below");
            assertEquals(
                    Status.StatusCode.STATUS_CODE_UNSET,
                    spans.get(2).getStatus().getCode());
        }
    }

    @Test
    void ifSpansAreRejectedForGoodTheLogRecordsAreStillSent() throws IOException {
        try (StandIn receiver = new StandIn();
                Graphema graphema = startWithTraces(receiver)) {
            receiver.next.add(StandIn.status("404 Where"));
            graphema.logger("skerry.deck").measure("count places", () -> 3);
            graphema.flush(LIMIT);
            assertEquals(
                    "POST /v1/logs HTTP/1.1", receiver.taken.get(0).headers().get(":first"));
            assertEquals(Map.of(Level.INFO, 1L), graphema.lost().get("collector"));
        }
    }

    @Test
    void everyIdIsHexadecimalAndEveryNumberOf64BitsAText() throws IOException {
        try (StandIn receiver = new StandIn();
                Graphema graphema = start(receiver)) {
            try (Operation operation = graphema.logger("skerry.deck").operation("reserve")) {
                operation.put("count", Long.MAX_VALUE);
                operation.succeed();
            }
            graphema.flush(LIMIT);
            JsonNode record = StandIn.json(receiver.taken.get(0).text()).at("/resourceLogs/0/scopeLogs/0/logRecords/0");
            assertTrue(record.get("traceId").asText().matches("[0-9a-f]{32}"));
            assertTrue(record.get("spanId").asText().matches("[0-9a-f]{16}"));
            assertTrue(record.get("timeUnixNano").isTextual());
            assertTrue(record.get("severityNumber").isInt());
            JsonNode count = null;
            for (JsonNode attribute : record.get("attributes")) {
                count = attribute.get("key").asText().equals("count") ? attribute.at("/value/intValue") : count;
            }
            assertEquals("9223372036854775807", count.textValue());
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"429 Too Many", "502 Bad", "503 Later", "504 Late"})
    void whatTheStandardTriesAgainIsTriedAgain(String status) throws IOException {
        try (StandIn receiver = new StandIn();
                Graphema graphema = start(receiver)) {
            receiver.next.add(StandIn.status(status, "Retry-After: 1"));
            long begin = System.nanoTime();
            graphema.logger("skerry.deck").info("seat held");
            graphema.flush(LIMIT);
            await().atMost(LIMIT).until(() -> receiver.taken.size() == 1);
            assertTrue(System.nanoTime() - begin > 900_000_000L, "came back before the pause was over");
            assertEquals(Map.of(), graphema.lost().get("collector"));
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"400 No", "401 Who", "404 Where", "500 Oh"})
    void everyOtherAnswerIsFinal(String status) throws IOException {
        try (StandIn receiver = new StandIn();
                Graphema graphema = start(receiver)) {
            receiver.next.add(StandIn.status(status));
            graphema.logger("skerry.deck").error("deck space refused");
            graphema.flush(LIMIT);
            assertEquals(Map.of(Level.ERROR, 1L), graphema.lost().get("collector"));
            assertEquals(1, receiver.seen.size(), "not sent again");
        }
    }

    @Test
    void whatAPartialSuccessRefusedIsCountedAndNotSentAgain() throws IOException {
        try (StandIn receiver = new StandIn();
                Graphema graphema = start(receiver)) {
            receiver.next.add((self, request, socket) -> StandIn.reply(
                    socket,
                    "200 OK",
                    "",
                    "{\"partialSuccess\":{\"rejectedLogRecords\":\"2\",\"errorMessage\":\"too old\"}}"));
            Logger log = graphema.logger("skerry.deck");
            log.info("a");
            log.warn("b");
            log.error("c");
            graphema.flush(LIMIT);
            assertEquals(Map.of(Level.INFO, 1L, Level.WARN, 1L), graphema.lost().get("collector"));
        }
    }

    private Graphema start(StandIn receiver) {
        return start(collector(receiver));
    }

    private Graphema startWithTraces(StandIn receiver) {
        return start(collector(receiver).set(OtlpKind.TRACES, URI.create(receiver.url("/v1/traces"))));
    }

    private static SinkSettings collector(StandIn receiver) {
        return SinkSettings.of(new OtlpKind())
                .set(OtlpKind.URL, URI.create(receiver.url("/v1/logs")))
                .set(BatchSink.BATCH_WAIT, Duration.ofMinutes(1)) // until it is flushed
                .set(BatchSink.RETRY_FIRST, Duration.ofMillis(20));
    }

    private Graphema start(SinkSettings collector) {
        return Graphema.isolated(settings -> settings.service("deck")
                .instance("deck-2")
                .spoolPath(folder.resolve("spool"))
                .sink("collector", collector));
    }

    /** As {@link #message}. */
    private static ExportTraceServiceRequest traces(String json) throws InvalidProtocolBufferException {
        ObjectNode tree = (ObjectNode) StandIn.json(json);
        for (JsonNode resource : tree.get("resourceSpans")) {
            for (JsonNode scope : resource.get("scopeSpans")) {
                ((ArrayNode) scope.get("spans")).forEach(span -> {
                    asBase64((ObjectNode) span, "traceId");
                    asBase64((ObjectNode) span, "spanId");
                    asBase64((ObjectNode) span, "parentSpanId");
                });
            }
        }
        ExportTraceServiceRequest.Builder message = ExportTraceServiceRequest.newBuilder();
        JsonFormat.parser().merge(tree.toString(), message);
        return message.build();
    }

    private static Map<String, AnyValue> attributes(LogRecord record) {
        return record.getAttributesList().stream().collect(Collectors.toMap(KeyValue::getKey, KeyValue::getValue));
    }

    /** The published messages' JSON reader takes ids for base64, where the protocol requires hexadecimal. */
    private static ExportLogsServiceRequest message(String json) throws InvalidProtocolBufferException {
        ObjectNode tree = (ObjectNode) StandIn.json(json);
        for (JsonNode resource : tree.get("resourceLogs")) {
            for (JsonNode scope : resource.get("scopeLogs")) {
                ((ArrayNode) scope.get("logRecords")).forEach(record -> {
                    asBase64((ObjectNode) record, "traceId");
                    asBase64((ObjectNode) record, "spanId");
                });
            }
        }
        ExportLogsServiceRequest.Builder message = ExportLogsServiceRequest.newBuilder();
        JsonFormat.parser().merge(tree.toString(), message);
        return message.build();
    }

    private static void asBase64(ObjectNode record, String id) {
        if (record.has(id)) {
            byte[] bytes = HexFormat.of().parseHex(record.get(id).asText());
            record.put(id, Base64.getEncoder().encodeToString(bytes));
        }
    }
}
