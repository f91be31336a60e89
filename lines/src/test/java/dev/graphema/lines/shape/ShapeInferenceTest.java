package dev.graphema.lines.shape;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNull;

import dev.graphema.lines.time.DateOrder;
import dev.graphema.lines.time.TimeRules;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class ShapeInferenceTest {
    @ParameterizedTest
    @CsvSource({
        "time, time",
        "@timestamp, time",
        "ts, time",
        "eventTime, time",
        "time_iso8601, time",
        "asctime, time",
        "created_at, time",
        "timeUnixNano, time",
        "observedTimestamp, time",
        "log.date, time",
        "level, level",
        "severityText, level",
        "SeverityNumber, level",
        "error_severity, level",
        "log.level, level",
        "levelname, level",
        "loglevel, level",
        "PRIORITY, level",
        "message, message",
        "MESSAGE, message",
        "msg, message",
        "short_message, message",
        "body, message",
        "event, message",
        "logger_name, logger",
        "scope.name, logger",
        "service.name, service",
        "app, service",
        "hostname, instance",
        "host.name, instance",
        "threadName, thread",
        "traceId, trace",
        "trace_id, trace",
        "traceparent, trace",
        "spanId, span",
        "parentSpanId, parent",
        "exception.type, failure.type",
        "error.message, failure.message",
        "exc_info, failure.text",
        "stack_trace, failure.text",
        "exception.stacktrace, failure.text",
        "error, failure.text"
    })
    void namesMeanWhatTheirWordsMean(String name, String attribute) {
        assertEquals(attribute, CommonNames.meaning(name).attribute().text());
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "lane",
                "status",
                "message_id",
                "messageCount",
                "request_time",
                "responseTime",
                "uptime",
                "timeout",
                "timezone",
                "user.name",
                "error_code",
                "errors",
                "http.request.body",
                "kind",
                "when",
                "t",
                "s",
                "code"
            })
    void otherNamesAreFields(String name) {
        assertNull(CommonNames.meaning(name).attribute());
    }

    @Test
    void valuesThatLeaveNoDoubtAreAttributesWhateverTheirNamesAre() {
        ShapeInference inference = new ShapeInference(TimeRules.USUAL);
        for (int i = 0; i < 20; i++) {
            inference.value("n", i, true);
            inference.value("when", "2026-11-23T05:01:%02dZ".formatted(i), true);
            inference.value("until", "2026-11-23T06:01:%02dZ".formatted(19 - i), true);
            inference.value("kind", i % 5 == 0 ? "warning" : "info", true);
            inference.value("what", "lane A" + i + " was reserved again", true);
            inference.value("agent", "Mozilla/5.0 (X11; Linux x86_64)", true);
            inference.value("result", "error", true);
            inference.structuredLine();
        }

        assertEquals(
                Map.of("when", LineAttribute.TIME, "kind", LineAttribute.LEVEL, "what", LineAttribute.MESSAGE),
                meanings(inference));
    }

    @Test
    void numbersThatAscendSince2001AreTimesAndLettersAreLevelsOnlyIfNothingElseIs() {
        ShapeInference inference = new ShapeInference(TimeRules.USUAL);
        for (int i = 0; i < 20; i++) {
            inference.value("at", 1_795_442_462_000L + i, true);
            inference.value("s", List.of("I", "W", "E", "D2").get(i % 4), true);
            inference.value("grade", List.of("A", "B", "C", "D").get(i % 4), true);
            inference.structuredLine();
        }

        assertEquals(Map.of("at", LineAttribute.TIME, "s", LineAttribute.LEVEL), meanings(inference));
    }

    @Test
    void nothingIsInferredWhereNamesAreKnownOrValuesDiffer() {
        ShapeInference inference = new ShapeInference(TimeRules.USUAL);
        for (int i = 0; i < 20; i++) {
            inference.value("time", "2026-11-23T05:01:%02dZ".formatted(i), true);
            inference.value("when", "2026-11-23T05:01:%02dZ".formatted(i), true);
            inference.value("mixed", i % 2 == 0 ? "info" : "lane", true);
            inference.value("problem", i % 2 == 0 ? "error" : "fatal", true);
            inference.structuredLine();
        }

        assertEquals(Map.of(), meanings(inference));
    }

    @Test
    void aDateDecidesAboutDayAndMonthOfAllUnlessAnotherOneDisagrees() {
        ShapeInference inference = new ShapeInference(TimeRules.USUAL);
        inference.value("date", "11/12/2026 05:01:56", true);
        inference.value("date", "11/23/2026 05:01:56", true);
        assertEquals(DateOrder.MONTH_FIRST, inference.shape().order());
        inference.value("date", "23/11/2026 05:01:56", true);
        assertNull(inference.shape().order());
    }

    private static Map<String, LineAttribute> meanings(ShapeInference inference) {
        Map<String, LineAttribute> meanings = new HashMap<>();
        inference.shape().names().forEach((name, meaning) -> meanings.put(name, meaning.attribute()));
        return meanings;
    }
}
