package dev.graphema.query.json;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.Window;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

class QuestionJsonTest {
    static Stream<Question<?>> questions() {
        Window hour = Window.between(Instant.parse("2026-05-15T06:00:00Z"), Instant.parse("2026-05-15T07:00:00Z"));
        return Stream.of(
                Question.all().newest(Integer.MAX_VALUE),
                Question.where("level >= error and lane in (A3, \"B 1\")")
                        .during(hour)
                        .fields("message", "lane")
                        .oldest(3),
                Question.all().during(new Window(Long.MIN_VALUE, hour.to())).counts("service", "fields.level"),
                Question.all().ask(new Ask.Counts(List.of(Name.of("service")), Name.of("elapsed"))),
                Question.all().timeline(40),
                Question.all()
                        .ask(Ask.TimeSteps.of(Duration.ofMinutes(5))
                                .by(Name.of("service"), 4)
                                .in(ZoneId.of("Europe/Oslo"))),
                Question.all()
                        .ask(new Ask.TimeCells(
                                160, null, ZoneId.of("UTC"), List.of(Name.of("service"), Name.of("instance")), 40)),
                Question.all().ask(new Ask.TimeCells(1, Duration.ofMinutes(2), null, List.of(), 0)),
                Question.all().trail("4bf9"),
                Question.all().trail("booking", "B0047113"),
                Question.all().failures(),
                Question.where("service = gate")
                        .contrastWith(Question.where("service = deck").during(hour)),
                Question.all().ask(new Ask.ContextOf(Condition.parse("level = fatal"), 5)),
                Question.all().first(7),
                Question.all().ask(new Ask.Counts(List.of(Name.of("lanes")), null, Ask.Counts.USUAL_PERCENTILES, true)),
                Question.all().ask(new Ask.Counts(List.of(), Name.of("n"), List.of(new BigDecimal("99.9")))),
                Question.all().ask(new Ask.Values("A3", 2)),
                Question.all().values(),
                Question.all().catalogue());
    }

    @ParameterizedTest
    @MethodSource("questions")
    void aQuestionIsReadAsItWasWritten(Question<?> question) {
        assertEquals(question, QuestionJson.read(QuestionJson.of(question)), QuestionJson.of(question));
    }

    @Test
    void theKeysAreFixed() {
        assertEquals(
                "{\"where\":\"level >= error\",\"during\":{\"to\":\"2026-05-15T07:00:00Z\"},\"fields\":[\"lane\"],"
                        + "\"ask\":{\"kind\":\"events\",\"order\":\"newest\",\"limit\":5}}",
                QuestionJson.of(Question.where("level >= error")
                        .during(new Window(
                                Long.MIN_VALUE,
                                Window.between(Instant.EPOCH, Instant.parse("2026-05-15T07:00:00Z"))
                                        .to()))
                        .fields("lane")
                        .newest(5)));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            value = {
                "nothing | at line 1, column 1: expected JSON (RFC 8259) with each key once",
                "[] | expected one JSON object, such as {\"ask\": {\"kind\": \"events\"}}",
                "{} | \"ask\" is missing: expected an object",
                "{\"were\":\"a\"} | \"were\" is not known: expected one of ask, during, fields, where; did you mean where?",
                "{\"ask\":{\"kind\":\"sums\"}} | \"ask.kind\" is \"sums\": expected one of events, counts, timeline,"
                        + " map, trail, failures, contrast, context, fields and values",
                "{\"ask\":{\"kind\":\"events\",\"limit\":-1}} | \"ask.limit\" is -1: expected a whole number, 0 or more",
                "{\"ask\":{\"kind\":\"counts\",\"by\":[],\"percentiles\":[101]}} | \"ask.percentiles\" is [101]: expected"
                        + " numbers above 0 and up to 100",
                "{\"ask\":{\"kind\":\"timeline\",\"step\":\"5m\"}} | \"ask.step\" is \"5m\": expected a positive duration"
                        + " such as PT5M",
                "{\"during\":{\"from\":\"now\"},\"ask\":{\"kind\":\"fields\"}} | \"during.from\" is \"now\": expected a"
                        + " time such as 2026-05-15T06:00:00Z",
            })
    void aWrongQuestionIsExplained(String text, String message) {
        assertEquals(
                message,
                assertThrows(QuestionException.class, () -> QuestionJson.read(text))
                        .getMessage());
    }

    @Test
    void aWrongConditionIsExplained() {
        QuestionException e = assertThrows(
                QuestionException.class,
                () -> QuestionJson.read("{\"where\":\"level >=\",\"ask\":{\"kind\":\"fields\"}}"));
        assertEquals(true, e.getMessage().startsWith("in \"where\": "), e.getMessage());
    }
}
