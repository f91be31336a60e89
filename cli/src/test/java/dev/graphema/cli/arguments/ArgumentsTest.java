package dev.graphema.cli.arguments;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Level;
import dev.graphema.terminal.Paint;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class ArgumentsTest {
    private final Arguments arguments = new Arguments();
    private final Argument<String> lane = arguments.own().word("LANE", "The selected lane.");
    private final Argument<String> condition = arguments.own().condition("Which events.");
    private final Argument<Boolean> oldest = arguments.own().flag("--oldest", "The first ones.");
    private final Argument<Integer> limit = arguments.own().count("--limit", 20, "How many. Default: 20.");
    private final Argument<Level> level =
            arguments.own().choice("--level", "LEVEL", Level.INFO, "From which level on.");
    private final Argument<List<String>> in = arguments.group("Logs:").texts("--in", "FILE", "A file.");
    private final Argument<Path> report = arguments.groups().get(1).path("--report", "FILE", "Where to write.");

    @Test
    void whatIsNotGivenHasItsUsualValue() throws MisuseException {
        assertTrue(arguments.read("A3"));
        assertEquals("A3", lane.value());
        assertEquals("", condition.value());
        assertEquals(
                List.of(false, 20, Level.INFO, List.of()),
                List.of(oldest.value(), limit.value(), level.value(), in.value()));
        assertNull(report.value());
        assertFalse(condition.isGiven() || oldest.isGiven() || limit.isGiven() || in.isGiven() || report.isGiven());
    }

    @Test
    void optionsStandAnywhereAndTakeTheirValueInEitherWay() throws MisuseException {
        assertTrue(arguments.read(
                "--in", "a", "A3", "--limit=7", "lane = A3", "--oldest", "--in=b=c", "--level", "Warn", "--in", "-"));
        assertEquals("lane = A3", condition.value());
        assertEquals(List.of("a", "b=c", "-"), in.value());
        assertEquals(List.of(true, 7, Level.WARN), List.of(oldest.value(), limit.value(), level.value()));
        assertTrue(limit.isGiven());
    }

    @Test
    void quotesBelongToTheValue() throws MisuseException {
        assertTrue(arguments.read("A3", "\"not free\"", "--report", "\"a b\"", "--in=\"c\""));
        assertEquals("\"not free\"", condition.value());
        assertEquals(Path.of("\"a b\""), report.value());
        assertEquals(List.of("\"c\""), in.value());
    }

    @Test
    void behindTwoDashesEverythingIsAWord() throws MisuseException {
        assertTrue(arguments.read("--", "--limit", "-5 < depth"));
        assertEquals("--limit", lane.value());
        assertEquals("-5 < depth", condition.value());
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "'' | LANE is missing: expected the selected lane",
                "A3 x y | \"y\" is unexpected: put the whole condition in quotes",
                "A3 --limt 3 | there is no option --limt; did you mean --limit?",
                "A3 --lim 3 | there is no option --lim; did you mean --limit?",
                "A3 --limt=3 | there is no option --limt; did you mean --limit?",
                "A3 --limit | --limit has no value: expected --limit N",
                "A3 --limit --oldest | --limit has no value: expected --limit N",
                "A3 --oldest=yes | --oldest takes no value: expected --oldest alone",
                "A3 --limit x | --limit \"x\": expected a whole number from 0 to 2147483647",
                "A3 --limit -1 | --limit \"-1\": expected a whole number from 0 to 2147483647",
                "A3 --limit 3000000000 | --limit \"3000000000\": expected a whole number from 0 to 2147483647",
                "A3 --limit 3 --limit 4 | --limit is given twice: expected once",
                "A3 --oldest --oldest | --oldest is given twice: expected once",
                "A3 --level loud | --level \"loud\": expected one of trace, debug, info, warn, error, fatal, off",
                "A3 -x | there is no option -x"
            })
    void whatIsNotExpectedIsReportedWithWhatIs(String line, String message) {
        String[] words = line.isEmpty() ? new String[0] : line.split(" ");
        MisuseException problem = assertThrows(MisuseException.class, () -> arguments.read(words));
        assertEquals(message, problem.getMessage());
    }

    @ParameterizedTest
    @ValueSource(strings = {"--help", "-h"})
    void helpNeedsNothingElse(String asked) throws MisuseException {
        assertFalse(arguments.read(asked));
        assertEquals("""
                Usage: tally LANE [CONDITION] [OPTIONS]
                Counts.

                  LANE           The
                                 selected
                                 lane.
                  CONDITION      Which
                                 events.
                  --oldest       The first
                                 ones.
                  --limit N      How many.
                                 Default:
                                 20.
                  --level LEVEL  From which
                                 level on.
                  -h, --help     Show this
                                 help.

                Logs:
                  --in FILE      A file.
                  --report FILE  Where to
                                 write.
                """, text(Help.of("tally", "Counts.", arguments, Paint.NONE, 27)));
    }

    @Test
    void aTermThatIsTooWideIsOnALineOfItsOwn() {
        assertEquals(
                """
                Verbs
                  a-term-of-more-than-26-characters
                       means this
                  b    and that
                """,
                text(new Help(Paint.NONE, 40)
                        .heading("Verbs")
                        .term("a-term-of-more-than-26-characters", 3, "means this")
                        .term("b", 3, "and that")));
    }

    @Test
    void theRestIsUnchanged() throws MisuseException {
        Arguments keep = new Arguments();
        Argument<String> name = keep.own().optionalWord("NAME", null, text -> text, "Its name.");
        Argument<List<String>> rest = keep.own().rest("VERB ARGUMENTS", "The question.");
        Argument<String> drop = keep.own().text("--drop", "NAME", "Forget it.");
        assertTrue(keep.read("lanes", "find", "--drop", "--help", "x"));
        assertEquals("lanes", name.value());
        assertEquals(List.of("find", "--drop", "--help", "x"), rest.value());
        assertFalse(drop.isGiven());
    }

    private static String text(Help help) {
        return help.toBuffer().toString();
    }
}
