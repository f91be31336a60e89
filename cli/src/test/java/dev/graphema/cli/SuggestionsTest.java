package dev.graphema.cli;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Every command that an answer suggests can be typed unchanged, and finds something. */
class SuggestionsTest extends CommandFixture {
    private static final String DAY = "../examples/day";
    private static final Pattern SUGGESTION = Pattern.compile("to [^:]+: graphema (.+)");
    private static final Pattern WORD = Pattern.compile("'([^']*)'|(\\S+)");

    @ParameterizedTest
    @ValueSource(
            strings = {
                "find 'level >= warn'",
                "find 'message = \"reserve lanes\" and level = error' --oldest --limit 1",
                "find 'message.shape = \"lane not free\"' --limit 3",
                "tally service,instance 'level >= error'",
                "tally elapsed 'message = call'",
                "tally lanes",
                "tally lanes 'lanes exists'",
                "tally booking,status",
                "tally message.shape",
                "tally path.path",
                "tally nothing",
                "tally 'status >= 500' --of elapsed",
                "tally",
                "timeline 'level >= error' --by instance",
                "timeline --step 10m",
                "contrast --since 2026-05-15T06:55:00+01:00 --to 2026-05-15T07:42:00+01:00",
                "faults",
                "fields",
                "fields --value SK-204",
                "around 'instance = deck-2 and sequence = 323'",
                "trail booking=B0047117",
                "compare status --with ../examples/day/booking.jsonl.gz"
            })
    void whatIsSuggestedFindsSomething(String command) {
        List<String> suggested = suggestions(command + " --in " + DAY);
        assertFalse(
                suggested.isEmpty() && !command.startsWith("fields") && !command.startsWith("tally nothing"), error);
        for (String each : suggested) {
            assertEquals(0, run(words(each)), () -> each + "\n" + error);
            assertTrue(!output.isEmpty(), each);
        }
    }

    private List<String> suggestions(String command) {
        assertEquals(0, run(words(command)), () -> command + "\n" + error);
        List<String> found = new ArrayList<>();
        error.lines().map(SUGGESTION::matcher).filter(Matcher::matches).forEach(each -> found.add(each.group(1)));
        return found;
    }

    private static String[] words(String command) {
        List<String> words = new ArrayList<>();
        Matcher word = WORD.matcher(command);
        while (word.find()) {
            words.add(word.group(1) == null ? word.group(2) : word.group(1));
        }
        return words.toArray(new String[0]);
    }
}
