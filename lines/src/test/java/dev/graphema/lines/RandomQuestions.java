package dev.graphema.lines;

import dev.graphema.condition.Name;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.ZoneId;
import java.util.List;
import java.util.Random;

/** Random questions, which every source must answer in the same way. */
public final class RandomQuestions {
    /** Conditions about the lines of {@link RandomLog}. */
    public static final List<String> CONDITIONS = List.of(
            "",
            "level >= warn",
            "level = info and service = deck",
            "service = booking or instance exists",
            "not service exists",
            "message starts lane",
            "message = Troms\u00f8",
            "trace exists and span exists",
            "sequence > 100",
            "weight > 1",
            "held = true",
            "event.repeat = false",
            "failure.type exists",
            "failure.fingerprint = ee0caf7304a44c61",
            "failure.message = \"no lane\"",
            "lane exists",
            "lane = B2",
            "http.code = 12",
            "http.code > 11",
            "http exists",
            "status = true",
            "status >= 0",
            "error.type exists and not status = 17",
            "text = PT2S",
            "\"lane closed\"",
            "\"lane\" and level = info",
            "\"deck\" and \"free\"",
            "not \"lane\"",
            "\"2026\" or service = deck",
            "\"LaneException\"",
            "type missing",
            "code between -1 and 20");

    private static final List<String> NAMES = List.of(
            "level",
            "service",
            "instance",
            "message",
            "trace",
            "thread",
            "sequence",
            "held",
            "failure.type",
            "failure.fingerprint",
            "lane",
            "http.code",
            "status",
            "error.type",
            "text",
            "fields.type",
            "unknown.lane");

    private static final List<String> MEASURED = List.of("sequence", "http.code", "status", "code", "message");

    private static final List<BigDecimal> PERCENTILES = List.of(BigDecimal.valueOf(50), BigDecimal.valueOf(99));

    private static final ZoneId ZONE = ZoneId.of("Europe/Oslo");

    private RandomQuestions() {}

    /** Returns a question about the lines of {@link RandomLog}. */
    public static Question<?> next(Random random) {
        var selection = Question.where(CONDITIONS.get(random.nextInt(CONDITIONS.size())));
        return switch (random.nextInt(10)) {
            case 0 -> selection.newest(random.nextInt(30) + 1);
            case 1 -> selection.oldest(random.nextInt(30) + 1);
            case 2 -> selection.failures();
            case 3 -> random.nextBoolean() ? selection.catalogue() : selection.values();
            case 4 -> selection.contrastWith(Question.where(CONDITIONS.get(random.nextInt(CONDITIONS.size()))));
            case 5 -> selection.ask(new Ask.TimeSteps(40, step(random), ZONE, anyOf(names(random)), 5));
            case 6 -> selection.ask(new Ask.TimeCells(40, step(random), ZONE, names(random), 5));
            case 7 ->
                selection.ask(new Ask.Counts(
                        names(random), Name.of(MEASURED.get(random.nextInt(MEASURED.size()))), PERCENTILES, false));
            default ->
                selection.counts(names(random).stream().map(Name::toString).toArray(String[]::new));
        };
    }

    /** Returns null for a step that the source chooses. */
    private static Duration step(Random random) {
        return random.nextBoolean() ? null : Duration.ofMinutes(random.nextInt(90) + 1L);
    }

    private static Name anyOf(List<Name> names) {
        return names.isEmpty() ? null : names.get(0);
    }

    private static List<Name> names(Random random) {
        return random.ints(random.nextInt(4), 0, NAMES.size())
                .distinct()
                .mapToObj(i -> Name.of(NAMES.get(i)))
                .toList();
    }
}
