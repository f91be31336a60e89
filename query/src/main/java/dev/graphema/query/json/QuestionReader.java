package dev.graphema.query.json;

import dev.graphema.condition.Condition;
import dev.graphema.condition.ConditionException;
import dev.graphema.condition.Name;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.Window;
import dev.graphema.query.answer.TimeMap;
import dev.graphema.text.Times;
import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Set;

/** Reads questions. */
final class QuestionReader {
    private static final String NAMES = "a list of names";

    Question<?> read(String text) {
        JsonObjectReader question = JsonObjectReader.of(text);
        question.only(Set.of("where", "during", "fields", "ask"));
        Condition where = condition(question, "where", "");
        List<Name> fields = question.has("fields") ? names(question, "fields") : List.of();
        return new Question<>(where, window(question), fields, ask(question.object("ask")));
    }

    private static Condition condition(JsonObjectReader from, String key, String missing) {
        String text = from.has(key) || missing == null ? from.text(key, "a condition") : missing;
        try {
            return Condition.parse(text);
        } catch (ConditionException e) {
            throw new QuestionException("in \"" + key + "\": " + e.getMessage(), e);
        }
    }

    private static List<Name> names(JsonObjectReader from, String key) {
        return from.texts(key, NAMES).stream().map(Name::of).toList();
    }

    private static Window window(JsonObjectReader from) {
        if (!from.has("during")) {
            return Window.ALWAYS;
        }
        JsonObjectReader window = from.object("during");
        window.only(Set.of("from", "to"));
        long begin = window.has("from") ? time(window, "from") : Long.MIN_VALUE;
        long end = window.has("to") ? time(window, "to") - 1 : Long.MAX_VALUE;
        if (end < begin) {
            throw window.wrong("to", "a time after \"from\"");
        }
        return new Window(begin, end);
    }

    private static long time(JsonObjectReader from, String key) {
        String expected = "a time such as 2026-05-15T06:00:00Z";
        try {
            return Times.epochNanos(Instant.parse(from.text(key, expected)));
        } catch (DateTimeException e) {
            throw from.wrong(key, expected);
        }
    }

    private static Ask<?> ask(JsonObjectReader ask) {
        String kind = ask.text(
                "kind",
                "what is asked for: events, counts, timeline, map, trail, failures, contrast,"
                        + " context, fields or values");
        switch (kind) {
            case "events":
                ask.only(Set.of("kind", "order", "limit"));
                return new Ask.Events(order(ask), ask.number("limit", 0, Integer.MAX_VALUE));
            case "counts":
                ask.only(Set.of("kind", "by", "measured", "percentiles", "items"));
                return new Ask.Counts(names(ask, "by"), name(ask, "measured"), percentiles(ask), ask.isTrue("items"));
            case "timeline":
                ask.only(Set.of("kind", "most", "step", "zone", "by", "shown"));
                return new Ask.TimeSteps(
                        ask.number("most", 1, 1),
                        ask.has("step") ? step(ask) : null,
                        ask.has("zone") ? zone(ask) : null,
                        name(ask, "by"),
                        ask.number("shown", 0, 0));
            case "map":
                ask.only(Set.of("kind", "most", "step", "zone", "by", "shown"));
                return new Ask.TimeCells(
                        ask.number("most", 1, 1),
                        ask.has("step") ? step(ask) : null,
                        ask.has("zone") ? zone(ask) : null,
                        names(ask, "by"),
                        ask.number("shown", 0, TimeMap.MOST_ROWS));
            case "trail":
                ask.only(Set.of("kind", "name", "value"));
                return new Ask.TrailOf(Name.of(ask.text("name", "a name")), ask.text("value", "a text"));
            case "failures":
                ask.only(Set.of("kind", "parts"));
                return new Ask.Failures(ask.number("parts", 1, Ask.Failures.USUAL_PARTS));
            case "contrast":
                ask.only(Set.of("kind", "with", "during"));
                return new Ask.Contrast(condition(ask, "with", ""), window(ask));
            case "context":
                ask.only(Set.of("kind", "event", "count"));
                return new Ask.ContextOf(condition(ask, "event", null), ask.number("count", 0, 10));
            case "fields":
                ask.only(Set.of("kind"));
                return new Ask.Fields();
            case "values":
                ask.only(Set.of("kind", "containing", "shown"));
                return new Ask.Values(ask.textOrNull("containing"), ask.number("shown", 0, Ask.Values.USUAL_SHOWN));
            default:
                throw ask.wrong(
                        "kind",
                        "one of events, counts, timeline, map, trail, failures, contrast, context, fields and values");
        }
    }

    private static Name name(JsonObjectReader from, String key) {
        return from.has(key) ? Name.of(from.text(key, "a name")) : null;
    }

    private static List<BigDecimal> percentiles(JsonObjectReader ask) {
        if (!ask.has("percentiles")) {
            return Ask.Counts.USUAL_PERCENTILES;
        }
        String expected = "numbers above 0 and up to 100";
        List<BigDecimal> percentiles = ask.decimals("percentiles", expected);
        for (BigDecimal each : percentiles) {
            if (each.signum() <= 0 || each.compareTo(BigDecimal.valueOf(100)) > 0) {
                throw ask.wrong("percentiles", expected);
            }
        }
        return percentiles;
    }

    private static Ask.Order order(JsonObjectReader ask) {
        String expected = "newest, oldest, first or last";
        String given = ask.has("order") ? ask.text("order", expected) : "newest";
        for (Ask.Order order : Ask.Order.values()) {
            if (order.name().equalsIgnoreCase(given)) {
                return order;
            }
        }
        throw ask.wrong("order", expected);
    }

    private static Duration step(JsonObjectReader ask) {
        String expected = "a positive duration such as PT5M";
        try {
            Duration step = Duration.parse(ask.text("step", expected));
            if (!step.isNegative() && !step.isZero()) {
                return step;
            }
        } catch (DateTimeException e) {
            throw ask.wrong("step", expected);
        }
        throw ask.wrong("step", expected);
    }

    private static ZoneId zone(JsonObjectReader ask) {
        String expected = "a zone such as Europe/Oslo";
        try {
            return ZoneId.of(ask.text("zone", expected));
        } catch (DateTimeException e) {
            throw ask.wrong("zone", expected);
        }
    }
}
