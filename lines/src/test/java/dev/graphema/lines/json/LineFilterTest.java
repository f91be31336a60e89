package dev.graphema.lines.json;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.Condition;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.event.Level;
import dev.graphema.query.contract.Samples;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class LineFilterTest {
    private static final String LINE =
            "{\"time\":\"2026-05-15T06:00:00.123456789Z\",\"level\":\"warn\",\"message\":\"lane not free\",\"fields\":{\"lane\":\"A3\",\"n\":250}}";

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    level = warn                          | true
                    level = error                         | false
                    level >= warn                         | true
                    level > warn                          | false
                    level < warn                          | false
                    level != warn                         | true
                    lane = A3                             | true
                    lane = B1                             | false
                    lane in (B1, A3)                      | true
                    lane in (B1, B2)                      | false
                    message starts "LANE NOT"             | true
                    message ends full                     | false
                    message has FREE                      | true
                    "not free"                            | true
                    "not full"                            | false
                    n = 250.0                             | true
                    n > 300                               | true
                    lane = B1 or level = warn             | true
                    lane = B1 or level = error            | false
                    lane = B1 or n > 300                  | true
                    lane = A3 and level = error           | false
                    not lane = B1                         | true
                    booking missing                       | true
                    lane = é                              | true
                    """)
    void linesThatCannotMatchAreRuledOut(String condition, boolean mayMatch) {
        assertEquals(mayMatch, mayMatch(condition, LINE), condition);
    }

    @Test
    void ofLevelsTheFilterDecidesAlone() {
        for (String condition : List.of(
                "",
                "level = warn",
                "level < warn",
                "level <= warn",
                "level > warn",
                "level >= warn",
                "level >= info and level <= warn",
                "level = warn or level = info",
                "level in (warn, info)",
                "level between info and error")) {
            Condition parsed = Condition.parse(condition);
            assertTrue(LineFilter.decides(parsed), condition);
            for (Level level : Level.values()) {
                Event event = new Draft().level(level).finish();
                String line = LINE.replace("warn", level.text());
                assertEquals(
                        level != Level.OFF && parsed.matches(event),
                        level != Level.OFF && mayMatch(condition, line),
                        condition + ", " + level);
            }
        }
        for (String condition : List.of(
                "level != warn",
                "level exists",
                "not level = warn",
                "level = warn or lane = A3",
                "lane = A3",
                "level = warn and n > 3",
                "\"not free\"")) {
            assertFalse(LineFilter.decides(Condition.parse(condition)), condition);
        }
    }

    @Test
    void aConditionThatExcludesAValueLetsAllLinesThrough() {
        String line = "{\"level\":\"error\",\"fingerprint\":\"91c0d4b5c3a2f107\",\"failure\":{\"type\":\"A\"}}";
        assertTrue(mayMatch("failure.fingerprint != 0741f44984e80138", line));
        assertFalse(mayMatch("failure.fingerprint = 0741f44984e80138", line.replace("failure", "problem")));
        assertTrue(mayMatch("n = \"250\"", "{\"n\":2.5e2}"));
    }

    @ParameterizedTest
    @ValueSource(longs = {64, 65, 66})
    void aLongTextIsFoundWhereverItIsAndNowhereElse(long seed) {
        Random random = new Random(seed);
        for (int i = 0; i < 3_000; i++) {
            String text = letters(17 + random.nextInt(24), random);
            String line = letters(random.nextInt(60), random)
                    + (random.nextBoolean() ? text.toUpperCase(Locale.ROOT) : "")
                    + letters(random.nextInt(60), random);
            boolean isThere = line.toLowerCase(Locale.ROOT).contains(text.toLowerCase(Locale.ROOT));

            assertEquals(isThere, mayMatch("lane = " + text, line), "seed " + seed + ": " + text + " in " + line);
        }
    }

    /** Of few letters, so that parts come again. */
    private static String letters(int count, Random random) {
        StringBuilder letters = new StringBuilder();
        for (int i = 0; i < count; i++) {
            letters.append("abAB".charAt(random.nextInt(4)));
        }
        return letters.toString();
    }

    @ParameterizedTest
    @ValueSource(longs = {61, 62, 63})
    void noLineIsRuledOutWhoseEventMatches(long seed) throws Exception {
        Random random = new Random(seed);
        List<String> texts = List.of(
                "1",
                "A3",
                "lane",
                "é\"x",
                "deck-1",
                "b\\c",
                "WARN",
                "250",
                "",
                " ",
                "a text of more than sixteen letters");
        List<String> conditions = List.of(
                "level = %s",
                "level >= %s",
                "level < %s",
                "not level = %s",
                "message = \"%s\"",
                "lane = \"%s\"",
                "lane starts \"%s\"",
                "lane in (\"%s\", deck-1)",
                "deck.lane ends \"%s\"",
                "failure.message has \"%s\"",
                "failure.type = \"%s\"",
                "failure exists",
                "weight = \"%s\"",
                "failure.fingerprint has \"%s\"",
                "message = \"%s\" or lane = \"%s\"",
                "not (message = \"%s\" and lane = \"%s\")");
        for (int i = 0; i < 2_000; i++) {
            Event event = new Draft()
                    .time(i)
                    .level(Level.values()[random.nextInt(6)])
                    .message(any(texts, random))
                    .failure(random.nextBoolean() ? null : Failure.of(new RuntimeException(any(texts, random))))
                    .fields(f ->
                            f.put("lane", any(texts, random)).group("deck", g -> g.put("lane", any(texts, random))))
                    .finish();
            String level = Level.values()[random.nextInt(6)].text();
            String text = any(texts, random).replace("\\", "\\\\").replace("\"", "\\\"");
            String form = any(conditions, random);
            Condition condition = Condition.parse(form.replace("%s", form.contains("level") ? level : text));
            if (condition.matches(event)) {
                String line = Samples.text(event).strip();
                for (String each : List.of(line, MemberOrder.other(line, random))) {
                    assertTrue(mayMatch(condition.toString(), each), "seed " + seed + ": " + condition + " " + each);
                }
            }
        }
    }

    private static <T> T any(List<T> values, Random random) {
        return values.get(random.nextInt(values.size()));
    }

    private static boolean mayMatch(String condition, String line) {
        byte[] bytes = ("xx" + line + "yy").getBytes(StandardCharsets.UTF_8);
        return LineFilter.of(Condition.parse(condition)).mayMatch(bytes, 2, bytes.length - 2);
    }
}
