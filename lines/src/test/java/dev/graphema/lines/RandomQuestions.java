package dev.graphema.lines;

import dev.graphema.query.Question;
import java.util.ArrayList;
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

    private RandomQuestions() {}

    /** Returns a question about the lines of {@link RandomLog}. */
    public static Question<?> next(Random random) {
        var selection = Question.where(CONDITIONS.get(random.nextInt(CONDITIONS.size())));
        return switch (random.nextInt(7)) {
            case 0 -> selection.newest(random.nextInt(30) + 1);
            case 1 -> selection.oldest(random.nextInt(30) + 1);
            case 2 -> selection.failures();
            case 3 -> random.nextBoolean() ? selection.catalogue() : selection.values();
            case 4 -> selection.contrastWith(Question.where(CONDITIONS.get(random.nextInt(CONDITIONS.size()))));
            default -> selection.counts(names(random));
        };
    }

    private static String[] names(Random random) {
        List<String> names = new ArrayList<>();
        for (int i = random.nextInt(3) + 1; i > 0; i--) {
            names.add(NAMES.get(random.nextInt(NAMES.size())));
        }
        return names.stream().distinct().toArray(String[]::new);
    }
}
