package dev.graphema.query.typed;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import dev.graphema.condition.Condition;
import dev.graphema.query.Ask;
import dev.graphema.query.Window;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Questions as people type them. */
class TypedQuestionTest {
    private static final Instant NOW = Instant.parse("2026-05-15T08:00:00Z");
    private static final ZoneId BRACKHOLM = ZoneId.of("+01:00");

    @Test
    void aConditionIsFollowedByOptions() {
        TypedQuestion typed = parse(" level >= warn and \"a --to b\" --from 07:10 --to 'today 07:50' --oldest");

        assertEquals("level >= warn and \"a --to b\"", typed.condition());
        assertEquals(Condition.parse("level >= warn and \"a --to b\""), typed.where());
        assertEquals(
                Window.between(Instant.parse("2026-05-15T06:10:00Z"), Instant.parse("2026-05-15T06:50:00Z")),
                typed.during());
        assertEquals(Ask.Order.OLDEST, typed.order());
        assertEquals(Map.of("--from", "07:10", "--to", "today 07:50", "--oldest", ""), typed.options());
    }

    @Test
    void withoutOptionsTheNewestOfAllTimesAreWanted() {
        assertEquals(Window.ALWAYS, parse("").during());
        assertEquals(Condition.EVERYTHING, parse("  ").where());
        assertEquals(Ask.Order.NEWEST, parse("level = info").order());
    }

    @Test
    void timesAreWordsWithoutQuotes() {
        assertEquals(
                NOW.minus(Duration.ofHours(2)),
                Instant.ofEpochSecond(0, parse("--last 2h").during().from()));
        assertEquals(
                Instant.parse("2026-05-14T08:00:00Z"),
                Instant.ofEpochSecond(
                        0, parse("--from yesterday 09:00").during().from()));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "level >= | 9 | expected a value but found the end",
                "  level >= | 11 | expected a value but found the end",
                "level = info --for 2h | 14 | \"--for\" is no option here: expected --from, --to, --last, --during, --around,"
                        + " --within or --oldest",
                "--last | 7 | the value of --last is missing: expected a duration such as 15m, 2h or 3d",
                "--last 2x | 8 | --last \"2x\" is not a valid duration: expected one such as 15m, 2h or 3d",
                "--last 2h --last 3h | 11 | --last is given twice: expected it once",
                "--from 'a | 8 | the value of --from has no end: expected a closing '",
                "--from 08:00 --to 07:00 | 19 | --to 07:00 is not after --from 08:00: expected a later time",
                "--last 2h --from 07:00 | 8 | the window is given in several ways: expected one of --from and --to, --last,"
                        + " --during, --around",
            },
            ignoreLeadingAndTrailingWhitespace = false)
    void anErrorHasItsColumn(String text, String column, String problem) {
        MistypedException thrown =
                assertThrows(MistypedException.class, () -> parse(text.substring(0, text.length() - 1)));

        assertEquals(problem.strip(), thrown.getMessage());
        assertEquals(Integer.parseInt(column.strip()), thrown.column());
    }

    private static TypedQuestion parse(String text) {
        return TypedQuestion.parse(text, BRACKHOLM, NOW);
    }
}
