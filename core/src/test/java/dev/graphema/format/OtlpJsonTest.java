package dev.graphema.format;

import static org.junit.jupiter.api.Assertions.assertEquals;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.EventBytes;
import dev.graphema.event.EventRecord;
import dev.graphema.event.Level;
import dev.graphema.text.Utf8Buffer;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class OtlpJsonTest {
    private final OtlpJson format = new OtlpJson();

    @Test
    void everyKindOfValueIsAnAttribute() {
        Event event = new Draft()
                .time(1_778_826_662_123_456_789L)
                .level(Level.WARN)
                .service("deck")
                .instance("deck-1")
                .logger("skerry.deck.Lanes")
                .message("lane \"A3\" taken")
                .thread("main")
                .trace(
                        new TraceId(0x4bf92f3577b34da6L, 0xa3ce929d0e0e4736L),
                        new SpanId(0xf067aa0ba902b7L),
                        new SpanId(1))
                .run("00f067aa0ba902b8")
                .sequence(7)
                .weight(20)
                .held(true)
                .fields(f -> f.put("lane", "A3")
                        .put("wait_ms", 2)
                        .put("length_m", 12.5)
                        .put("price", new BigDecimal("12.30"))
                        .put("free", false)
                        .put("at", Instant.EPOCH)
                        .put("waited", Duration.ofMillis(250))
                        .put("none", (Object) null)
                        .group("ship", g -> g.put("name", "Skua"))
                        .put("decks", Arrays.asList("a", 1, null, List.of(true), Map.of("k", "v"))))
                .finish();

        assertEquals("""
                {"resourceLogs":[{"resource":{"attributes":[{"key":"service.name","value":{"stringValue":"deck"}},\
                {"key":"service.instance.id","value":{"stringValue":"deck-1"}}]},"scopeLogs":[{"scope":{"name":"skerry.deck.Lanes"},\
                "logRecords":[{"timeUnixNano":"1778826662123456789","observedTimeUnixNano":"1778826662123456789",\
                "severityNumber":13,"severityText":"WARN","body":{"stringValue":"lane \\"A3\\" taken"},"attributes":[\
                {"key":"lane","value":{"stringValue":"A3"}},{"key":"wait_ms","value":{"intValue":"2"}},\
                {"key":"length_m","value":{"doubleValue":12.5}},{"key":"price","value":{"stringValue":"12.30"}},\
                {"key":"free","value":{"boolValue":false}},{"key":"at","value":{"stringValue":"1970-01-01T00:00:00Z"}},\
                {"key":"waited","value":{"stringValue":"PT0.25S"}},{"key":"none","value":{}},\
                {"key":"ship","value":{"kvlistValue":{"values":[{"key":"name","value":{"stringValue":"Skua"}}]}}},\
                {"key":"decks","value":{"arrayValue":{"values":[{"stringValue":"a"},{"intValue":"1"},{},\
                {"arrayValue":{"values":[{"boolValue":true}]}},\
                {"kvlistValue":{"values":[{"key":"k","value":{"stringValue":"v"}}]}}]}}},\
                {"key":"log.record.uid","value":{"stringValue":"00f067aa0ba902b8-7"}},\
                {"key":"thread.name","value":{"stringValue":"main"}},\
                {"key":"graphema.parent_span","value":{"stringValue":"0000000000000001"}},\
                {"key":"graphema.sequence","value":{"intValue":"7"}},{"key":"graphema.weight","value":{"intValue":"20"}},\
                {"key":"graphema.held","value":{"boolValue":true}}],"traceId":"4bf92f3577b34da6a3ce929d0e0e4736",\
                "spanId":"00f067aa0ba902b7"}]}]}]}
                """, written(event));
        Utf8Buffer fromRecord = new Utf8Buffer(16);
        format.write(EventRecord.of(new EventBytes().write(event).copy()), fromRecord);
        assertEquals(written(event), fromRecord.toString());
    }

    @Test
    void whatIsMissingIsLeftOut() {
        assertEquals("""
                {"resourceLogs":[{"resource":{"attributes":[{"key":"service.name","value":{"stringValue":"unknown_service:java"}}]},\
                "scopeLogs":[{"scope":{"name":""},"logRecords":[{"timeUnixNano":"1","observedTimeUnixNano":"1","attributes":[]}]}]}]}
                """, written(new Draft().time(1).finish()));
    }

    private String written(Event event) {
        Utf8Buffer to = new Utf8Buffer(16);
        format.write(event, to);
        return to.toString();
    }

    @Test
    void anOperationThatIsTooLongForTimesIsNoSpan() {
        for (long days : new long[] {1, 200 * 365, 1_000_000_000}) {
            Event event = new Draft()
                    .time(1)
                    .message("request")
                    .trace(new TraceId(1, 2), new SpanId(3), null)
                    .fields(f -> f.put("elapsed", Duration.ofDays(days)).put("outcome", "success"))
                    .finish();
            Utf8Buffer to = new Utf8Buffer(100);
            int spans = format.spans(
                    1, index -> EventRecord.of(new EventBytes().write(event).copy()), to);
            assertEquals(days == 1 ? 1 : 0, spans, days + " days");
            assertEquals(days == 1, to.length() > 0, days + " days");
        }
    }
}
