package dev.graphema.collector;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.google.protobuf.ByteString;
import com.google.protobuf.Message;
import dev.graphema.batch.EventBatch;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.format.OtlpJson;
import dev.graphema.query.Question;
import dev.graphema.query.answer.Trail;
import dev.graphema.query.contract.Samples;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.remote.RemoteSource;
import dev.graphema.text.Utf8Buffer;
import dev.graphema.trace.SpanId;
import io.opentelemetry.proto.collector.logs.v1.ExportLogsServiceRequest;
import io.opentelemetry.proto.collector.trace.v1.ExportTraceServiceRequest;
import io.opentelemetry.proto.common.v1.AnyValue;
import io.opentelemetry.proto.common.v1.ArrayValue;
import io.opentelemetry.proto.common.v1.KeyValue;
import io.opentelemetry.proto.common.v1.KeyValueList;
import io.opentelemetry.proto.logs.v1.LogRecord;
import io.opentelemetry.proto.logs.v1.ResourceLogs;
import io.opentelemetry.proto.logs.v1.ScopeLogs;
import io.opentelemetry.proto.logs.v1.SeverityNumber;
import io.opentelemetry.proto.resource.v1.Resource;
import io.opentelemetry.proto.trace.v1.ResourceSpans;
import io.opentelemetry.proto.trace.v1.ScopeSpans;
import io.opentelemetry.proto.trace.v1.Span;
import io.opentelemetry.proto.trace.v1.Status;
import java.io.IOException;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class OtlpTest {
    private static final ByteString TRACE = ByteString.fromHex("4bf92f3577b34da6a3ce929d0e0e4736");
    private static final Resource DECK = Resource.newBuilder()
            .addAttributes(text("service.name", "deck"))
            .addAttributes(text("service.instance.id", "deck-2"))
            .addAttributes(text("host.name", "quay"))
            .build();

    /** An example in the JSON encoding, with what the standard publishes about it: ids in hexadecimal, 64-bit numbers as texts. */
    private static final String PUBLISHED = """
            {"resourceLogs":[{"resource":{"attributes":[{"key":"service.name","value":{"stringValue":"my.service"}}]},
            "scopeLogs":[{"scope":{"name":"my.library","version":"1.0.0","attributes":[{"key":"my.scope.attribute",
            "value":{"stringValue":"some scope attribute"}}]},"logRecords":[{"timeUnixNano":"1544712660300000000",
            "observedTimeUnixNano":"1544712660300000000","severityNumber":10,"severityText":"Information",
            "traceId":"5B8EFFF798038103D269B633813FC60C","spanId":"EEE19B7EC3C1B174","body":{"stringValue":"Example log record"},
            "attributes":[{"key":"string.attribute","value":{"stringValue":"some string"}},
            {"key":"boolean.attribute","value":{"boolValue":true}},{"key":"int.attribute","value":{"intValue":"10"}},
            {"key":"double.attribute","value":{"doubleValue":637.704}},
            {"key":"array.attribute","value":{"arrayValue":{"values":[{"stringValue":"many"},{"stringValue":"values"}]}}},
            {"key":"map.attribute","value":{"kvlistValue":{"values":[{"key":"some.map.key","value":{"stringValue":"some value"}}]}}}],
            "notYetKnown":{"a":[1,2]}}]}]}]}""";

    @TempDir
    private Path folder;

    private Collector collector;

    @BeforeEach
    void start() throws IOException {
        collector = Collectors.start(folder.resolve("store"));
    }

    @AfterEach
    void close() throws IOException {
        collector.close();
    }

    private HttpResponse<String> send(String path, String type, byte[] body) throws IOException {
        return Collectors.send(
                HttpRequest.newBuilder(Collectors.address(collector).resolve(path))
                        .header("Content-Type", type)
                        .POST(HttpRequest.BodyPublishers.ofByteArray(body)));
    }

    private void send(String path, Message message) throws IOException {
        HttpResponse<String> answer = send(path, "application/x-protobuf", message.toByteArray());
        assertEquals(200, answer.statusCode(), answer.body());
        assertEquals("", answer.body()); // the response without a partial success
    }

    private List<Event> stored() throws IOException {
        return QueryExecutor.answer(Question.all().oldest(100), RemoteSource.at(Collectors.address(collector), null))
                .events();
    }

    private static KeyValue text(String key, String value) {
        return KeyValue.newBuilder()
                .setKey(key)
                .setValue(AnyValue.newBuilder().setStringValue(value))
                .build();
    }

    @Test
    void aRecordInJsonIsAnEvent() throws IOException {
        HttpResponse<String> answer = send("/v1/logs", "application/json", PUBLISHED.getBytes());
        assertEquals(200, answer.statusCode(), answer.body());
        assertEquals("{}", answer.body());
        Event event = stored().get(0);
        assertEquals(1_544_712_660_300_000_000L, event.epochNanos());
        assertEquals(Level.INFO, event.level());
        assertEquals("my.service", event.service());
        assertEquals("my.library", event.logger());
        assertEquals("Example log record", event.message());
        assertEquals("5b8efff798038103d269b633813fc60c", event.trace().toString());
        assertEquals("eee19b7ec3c1b174", event.span().toString());
        assertEquals("some string", event.fields().get("string.attribute"));
        assertEquals(true, event.fields().get("boolean.attribute"));
        assertEquals(10L, event.fields().get("int.attribute"));
        assertEquals(637.704, event.fields().get("double.attribute"));
        assertEquals(List.of("many", "values"), event.fields().get("array.attribute"));
        assertEquals(Map.of("some.map.key", "some value"), event.fields().get("map.attribute"));
        assertEquals("some scope attribute", event.fields().get("my.scope.attribute"));
        assertEquals("Information", event.fields().get("severity.text"));
        assertEquals("1.0.0", event.fields().get("scope.version"));
    }

    @Test
    void aRecordInProtobufIsAnEvent() throws IOException {
        LogRecord record = LogRecord.newBuilder()
                .setTimeUnixNano(Samples.START)
                .setSeverityNumber(SeverityNumber.SEVERITY_NUMBER_WARN2)
                .setBody(AnyValue.newBuilder()
                        .setKvlistValue(KeyValueList.newBuilder().addValues(text("lane", "A3"))))
                .setTraceId(TRACE)
                .setSpanId(ByteString.fromHex("00f067")) // invalid: as if there were none
                .setEventName("lane.closed")
                .addAttributes(text("exception.type", "skerry.LaneException"))
                .addAttributes(text("exception.message", "no lane"))
                .addAttributes(text(
                        "exception.stacktrace",
                        "skerry.LaneException: no lane\n\tat skerry.deck.Lanes.take(Lanes.java:63)\n"))
                .addAttributes(KeyValue.newBuilder()
                        .setKey("lanes")
                        .setValue(AnyValue.newBuilder()
                                .setArrayValue(ArrayValue.newBuilder()
                                        .addValues(AnyValue.newBuilder().setIntValue(-5))
                                        .addValues(
                                                AnyValue.newBuilder().setBytesValue(ByteString.copyFromUtf8("ab"))))))
                .build();
        send(
                "/v1/logs",
                ExportLogsServiceRequest.newBuilder()
                        .addResourceLogs(ResourceLogs.newBuilder()
                                .setResource(DECK)
                                .addScopeLogs(ScopeLogs.newBuilder().addLogRecords(record)))
                        .build());
        Event event = stored().get(0);
        assertEquals(Level.WARN, event.level());
        assertEquals("deck-2", event.instance());
        assertEquals(null, event.message());
        assertEquals(null, event.span());
        assertEquals("A3", event.fields().get("body.lane"));
        assertEquals("lane.closed", event.fields().get("event.name"));
        assertEquals("quay", event.fields().get("host.name"));
        assertEquals(List.of(-5L, "YWI="), event.fields().get("lanes"));
        assertEquals("skerry.LaneException", event.failure().type());
        assertEquals(63, event.failure().frames().get(0).line());
    }

    @Test
    void spansAreEndsOfOperationsOfWhichTrailsAreMade() throws IOException {
        Span server = Span.newBuilder()
                .setTraceId(TRACE)
                .setSpanId(ByteString.fromHex("00f067aa0ba902b7"))
                .setName("reserve lanes")
                .setKind(Span.SpanKind.SPAN_KIND_SERVER)
                .setStartTimeUnixNano(Samples.START)
                .setEndTimeUnixNano(Samples.START + 254_000_000)
                .setStatus(Status.newBuilder()
                        .setCode(Status.StatusCode.STATUS_CODE_ERROR)
                        .setMessage("busy"))
                .addEvents(Span.Event.newBuilder()
                        .setName("exception")
                        .setTimeUnixNano(Samples.START + 250_000_000)
                        .addAttributes(text("exception.type", "skerry.LaneException")))
                .addEvents(Span.Event.newBuilder()
                        .setName("lane not free")
                        .setTimeUnixNano(Samples.START + 100_000_000)
                        .addAttributes(text("lane", "A2")))
                .build();
        Span child = Span.newBuilder()
                .setTraceId(TRACE)
                .setSpanId(ByteString.fromHex("00f067aa0ba902b8"))
                .setParentSpanId(server.getSpanId())
                .setName("lock")
                .setStartTimeUnixNano(Samples.START + 1_000_000)
                .setEndTimeUnixNano(Samples.START + 2_000_000)
                .build();
        send(
                "/v1/traces",
                ExportTraceServiceRequest.newBuilder()
                        .addResourceSpans(ResourceSpans.newBuilder()
                                .setResource(DECK)
                                .addScopeSpans(
                                        ScopeSpans.newBuilder().addSpans(server).addSpans(child)))
                        .build());
        Trail trail = QueryExecutor.answer(
                        Question.all().trail(Samples.TRACE.toString()),
                        RemoteSource.at(Collectors.address(collector), null))
                .trails()
                .get(0);
        assertEquals(3, trail.events().size());
        Event failed = stored().get(2);
        assertEquals("reserve lanes", failed.message());
        assertEquals(Level.ERROR, failed.level());
        assertEquals(Duration.ofMillis(254), failed.fields().get("elapsed"));
        assertEquals("failure", failed.fields().get("outcome"));
        assertEquals("server", failed.fields().get("span.kind"));
        assertEquals("busy", failed.fields().get("status.message"));
        assertEquals("skerry.LaneException", failed.failure().type());
        assertEquals("00f067aa0ba902b7", stored().get(0).parent().toString());
        assertEquals("A2", stored().get(1).fields().get("lane"));
    }

    @Test
    void whatTheSinkOtlpSendsComesBack() throws IOException {
        Event event = Samples.event(5, "lane closed")
                .service("deck")
                .instance("deck-1")
                .thread("pool-1")
                .trace(Samples.TRACE, new SpanId(7), new SpanId(8))
                .sequence(12)
                .weight(20)
                .fields(f -> f.put("lane", "A3")
                        .put("free", 3)
                        .group("crew", crew -> crew.put("mate", true).put("load", 1.5)))
                .finish();
        Utf8Buffer request = new Utf8Buffer(1000);
        new OtlpJson().request(1, EventBatch.of(event)::get, request);
        assertEquals(
                200,
                send("/v1/logs", "application/json", request.toString().getBytes())
                        .statusCode());
        assertEquals(Samples.text(event), Samples.text(stored().get(0)));
    }

    @Test
    void damagedRequestsAreExplained() throws IOException {
        problem(400, "it is no message of this kind", send("/v1/logs", "application/x-protobuf", new byte[] {1, 2, 3}));
        problem(400, "expected an object", send("/v1/logs", "application/json", "[]".getBytes()));
        problem(
                400,
                "{\"code\":3,\"message\":\"at character 16, there is 3: expected a list of resourceLogs\"}",
                send("/v1/logs", "application/json", "{\"resourceLogs\":3}".getBytes()));
        String id = PUBLISHED.replace("EEE19B7EC3C1B174", "xyz");
        problem(400, "expected spanId in hexadecimal digits", send("/v1/logs", "application/json", id.getBytes()));
        problem(415, "expected application/x-protobuf", send("/v1/logs", "text/plain", new byte[0]));
        assertEquals(List.of(), stored());
        assertEquals(
                200, send("/v1/logs", "application/x-protobuf", new byte[0]).statusCode());
    }

    private static void problem(int status, String detail, HttpResponse<String> answer) {
        assertEquals(status, answer.statusCode(), answer.body());
        assertTrue(answer.body().contains(detail), answer.body());
    }
}
