package dev.graphema.condition;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.event.Level;
import dev.graphema.text.Times;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.TimeoutException;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ConditionTest {
    private static final ZoneId ZONE = ZoneId.of("Europe/Berlin");

    private final Event event = new Draft()
            .time(Times.epochNanos(Instant.parse("2026-05-15T05:31:02.5Z")))
            .level(Level.WARN)
            .service("deck")
            .instance("deck-2")
            .logger("skerry.deck.Lanes")
            .message("lane not free")
            .thread("deck-7")
            .trace(TraceId.parse("4bf92f3577b34da6a3ce929d0e0e4736"), SpanId.parse("00f067aa0ba902b7"), null)
            .sequence(812)
            .weight(20)
            .failure(Failure.of(new IllegalStateException("deck refused", new TimeoutException("250 ms over"))))
            .fields(f -> f.put("lane", "A3")
                    .put("lock_wait_ms", 250)
                    .put("length_m", 12.5)
                    .put("fare", new BigDecimal("82.50"))
                    .put("paid", true)
                    .put("elapsed", Duration.ofMillis(1_500))
                    .put("departs", Instant.parse("2026-05-15T06:00:00Z"))
                    .put("status", "503")
                    .put("took", "PT2S")
                    .put("seen", "2026-05-15T07:00:00+02:00")
                    .put("nothing", (String) null)
                    .put("empty", "")
                    .put("and", "keyword")
                    .put("level", "field")
                    .put("lanes", List.of("A1", "A2"))
                    .group("deck", g -> g.put("plan", 3)))
            .finish();

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                // attributes
                "level = warn",
                "level >= info",
                "LEVEL < Error",
                "level != info",
                "level in (warn, error)",
                "level between info and error",
                "service = deck",
                "instance != deck-1",
                "logger starts skerry.deck",
                "thread = deck-7",
                "trace = 4bf92f3577b34da6a3ce929d0e0e4736",
                "trace starts 4bf9",
                "span = 00f067aa0ba902b7",
                "sequence = 812",
                "weight > 1",
                "message = \"lane not free\"",
                "parent missing",
                "failure.type = java.lang.IllegalStateException",
                "failure.type ends TimeoutException",
                "failure.message has \"MS OVER\"",
                // times
                "time >= 2026-05-15T05:31:02.5Z",
                "time < 2026-05-15T07:31:03+02:00",
                "time >= 2026-05-15T07:31",
                "time between 2026-05-15 and 2026-05-16",
                "departs > 2026-05-15T07:59",
                "seen = 2026-05-15T05:00:00Z",
                // numbers, in every form in which they are stored
                "lock_wait_ms = 250",
                "lock_wait_ms = 250.0",
                "lock_wait_ms > 249.9",
                "lock_wait_ms between 250 and 250",
                "lock_wait_ms < 1KB",
                "lock_wait_ms = \"250\"",
                "length_m = 12.5",
                "length_m >= 12",
                "fare = 82.5",
                "status = 503",
                "status >= 500",
                "status between 500 and 599",
                // durations
                "elapsed > 1.4s",
                "elapsed = 1500ms",
                "lock_wait_ms = 0.25s",
                "took > 1s",
                // texts and booleans
                "lane = A3",
                "lane = \"A3\"",
                "lane > A2",
                "lane in (B1, A3)",
                "lane has \"\"",
                "empty has \"\"",
                "empty = \"\"",
                "lane matches \"^[A-C][0-9]$\"",
                "paid = true",
                "paid != false",
                // presence, nothing, lists and groups
                "nothing exists",
                "nothing = null",
                "gate missing",
                "lanes = A2",
                "lanes in (B1, A1)",
                "deck exists",
                "deck.plan = 3",
                // names that look like words of the language
                "fields.level = field",
                "fields.and = keyword",
                // phrases
                "\"not free\"",
                "\"NOT FREE\"",
                "\"a3\"",
                "\"ms over\"",
                "\"skerry.DECK\"",
                // wildcards, misspellings, nearness
                "message like \"lane*FREE\"",
                "message like \"lane not fre?\"",
                "message like \"*\"",
                "lane like A?",
                "message near \"lnae fere\"",
                "message near freee",
                "\"free lane\" within 1",
                "\"lane free\" within 2",
                "\"Not, Free\" within 0",
                // joining
                "level = warn and lane = A3",
                "level = info or lane = A3",
                "not level = info",
                "not (level = warn and lane = B1)",
                "level = info and lane = B1 or paid = true",
                "level = info and (lane = B1 or paid = true) or \"lane\"",
                "NOT gate EXISTS AND (lane STARTS A)"
            })
    void holds(String condition) {
        assertTrue(Condition.parse(condition, ZONE).matches(event), condition);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "level > warn",
                "level = info",
                "service = Deck",
                "time < 2026-05-15T05:31:02.5Z",
                "lock_wait_ms != 250",
                "lock_wait_ms > 250",
                "lock_wait_ms = abc",
                "lock_wait_ms > 250ms",
                "lock_wait_ms starts 25",
                "length_m < 12.5",
                "elapsed > 1500",
                "elapsed < 2",
                "lane = a3",
                "lane > 5",
                "lane != A3",
                "paid > false",
                "status < 500",
                "nothing = 5",
                "nothing > 5",
                "deck = 3",
                "lanes != A1",
                "lanes = A3",
                "\"lane  not\"",
                "\"82.50\"",
                "message like \"lane\"",
                "message like \"?\"",
                "lane like \"[A]3\"",
                "lock_wait_ms like 25*",
                "message near \"lank fork\"",
                "message near no",
                "\"free lane\" within 0",
                "\"lane deck\" within 99",
                "level = info and lane = A3",
                "not lane = A3",
                "level = info and (lane = A3 or paid = true)"
            })
    void doesNotHold(String condition) {
        assertFalse(Condition.parse(condition, ZONE).matches(event), condition);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "gate = 1",
                "gate != 1",
                "gate < 1",
                "gate in (1, 2)",
                "gate between 1 and 2",
                "gate starts a",
                "gate has a",
                "gate matches \".*\"",
                "gate like *",
                "gate near a",
                "gate exists",
                "parent != 00f067aa0ba902b7"
            })
    void aMissingValueSatisfiesNoComparison(String condition) {
        assertFalse(Condition.parse(condition).matches(event), condition);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "level >= warn",
                "trace = 4bf92f3577b34da6a3ce929d0e0e4736",
                "time > 2026-05-15T07:00:00Z",
                "wait > 250ms"
            })
    void theZoneIsNotAskedForWithoutALocalTime(String text) {
        assertEquals(
                text,
                Condition.parse(text, () -> {
                            throw new AssertionError("the zone was asked for");
                        })
                        .toString());
    }

    @ParameterizedTest
    @ValueSource(
            strings = {"", "a b", "it's", "\"", "a\\b", "deck-2", "/sailings/SK-204", "12.5", "Ålesund", "and", "x = 1"
            })
    void aValueAsItIsWrittenMeansThatValue(String value) {
        Condition condition = Condition.parse("note = " + Literal.written(value));
        assertTrue(
                condition.matches(new Draft().fields(f -> f.put("note", value)).finish()));
        assertFalse(condition.matches(
                new Draft().fields(f -> f.put("note", value + "x")).finish()));
    }

    @Test
    void anEmptyConditionIsTrueOfEverything() {
        assertEquals(Condition.EVERYTHING, Condition.parse("  "));
    }

    @Test
    void theCanonicalFormHasOnlyTheParenthesesThatItNeeds() {
        Condition condition =
                Condition.parse("((level>=WARN)) and (lane in(A3,\"B 1\") or not(x=1 and y=2)) AND z EXISTS");

        assertEquals(
                "level >= warn and (lane in (A3, \"B 1\") or not (x = 1 and y = 2)) and z exists",
                condition.toString());
    }

    @Test
    void theNamesAreThoseThatAreInIt() {
        Condition condition = Condition.parse("level = warn and (lane = A3 or not fields.level exists) and \"text\"");

        assertEquals(
                "level, lane, fields.level",
                condition.names().stream().map(Name::toString).collect(Collectors.joining(", ")));
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5})
    void printingAndParsingGivesTheSameTree(long seed) {
        Random random = new Random(seed);
        for (int i = 0; i < 500; i++) {
            Condition condition = Condition.parse(randomCondition(random, 4), ZONE);
            assertEquals(condition, Condition.parse(condition.toString(), ZONE), "seed " + seed + ": " + condition);
        }
    }

    private static String randomCondition(Random random, int depth) {
        int kind = random.nextInt(depth > 0 ? 9 : 6);
        String name = List.of("lane", "deck.plan", "service", "fields.level", "fields.not", "x-y")
                .get(random.nextInt(6));
        String value = List.of("A3", "250", "1.5s", "4KB", "2026-05-15", "\"a \\\"b\\\" \\\\ c\"", "-7")
                .get(random.nextInt(7));
        return switch (kind) {
            case 0 -> name + " " + List.of("=", "!=", "<", "<=", ">", ">=").get(random.nextInt(6)) + " " + value;
            case 1 ->
                name + " "
                        + List.of("starts", "ends", "has", "matches", "like", "near")
                                .get(random.nextInt(6)) + " " + value;
            case 2 -> name + " in (" + value + ", other)";
            case 3 -> name + " between " + value + " and zzz";
            case 4 -> name + (random.nextBoolean() ? " exists" : " missing");
            case 5 -> "\"some \\\"phrase\\\"\"" + (random.nextBoolean() ? " within " + random.nextInt(9) : "");
            case 6 -> "not " + parenthesised(random, depth);
            default -> {
                List<String> parts = new ArrayList<>();
                for (int i = 2 + random.nextInt(2); i > 0; i--) {
                    parts.add(parenthesised(random, depth));
                }
                yield String.join(kind == 7 ? " and " : " or ", parts);
            }
        };
    }

    private static String parenthesised(Random random, int depth) {
        return "(" + randomCondition(random, depth - 1) + ")";
    }
}
