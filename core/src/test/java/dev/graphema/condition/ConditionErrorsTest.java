package dev.graphema.condition;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ConditionErrorsTest {
    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '\'', textBlock = """
                    levl >= warn and               | 17 | expected a name, a quoted text, "not" or "(" but found the end
                    level >= wran                  | 10 | "wran" is not a valid level: expected one of trace, debug, info, warn, error, fatal; did you mean warn?
                    level = off                    | 9  | "off" is not a valid level: expected one of trace, debug, info, warn, error, fatal
                    level = warn adn service = x   | 14 | expected "and", "or" or the end but found "adn"; did you mean and?
                    refused                        | 8  | expected a comparison such as = after "refused" but found the end; to search for a text, put it in quotes
                    lane refused                   | 6  | expected a comparison such as = after "lane" but found "refused"; to search for a text, put it in quotes
                    lane mathces "A.*"             | 6  | unknown comparison "mathces"; did you mean matches?
                    lane == A3                     | 6  | unknown comparison "==": expected =
                    lane ! A3                      | 6  | a single "!" means nothing: expected != or the word not
                    lane =                         | 7  | expected a value but found the end
                    lane = )                       | 8  | expected a value but found ")"
                    lane starts (A)                | 13 | expected a text after "starts" but found "("
                    (lane = A3                     | 11 | expected ")" to close the parenthesis at column 1, "and" or "or" but found the end
                    lane = A3)                     | 10 | expected "and", "or" or the end but found ")"
                    "lane = A3                     | 1  | this quoted text has no end: expected a closing "
                    "lane" = A3                    | 1  | a name is written without quotes: expected lane
                    ""                             | 1  | an empty text occurs everywhere: expected at least one character
                    lane in A3                     | 9  | expected "(" and a list such as (coach, lorry) but found "A3"
                    lane in (A3 B1)                | 13 | expected "," or ")" but found "B1"
                    lane in ()                     | 10 | expected a value but found ")"
                    x between 1 or 2               | 13 | expected "and" and the upper bound but found "or"
                    lane matches "["               | 14 | not a regular expression (RE2 syntax): missing closing ]
                    time > yesterday               | 8  | "yesterday" is not a valid time: expected one such as 2026-05-15T07:31:02Z, 2026-05-15T07:31 or 2026-05-15
                    "lane refused" within x        | 23 | expected the number of other words in between, 0 to 9999, but found "x"
                    "refused" within 2             | 1  | within is about two words or more: expected a text such as "deck refused"
                    message near "..."             | 14 | expected words after "near" but found the quoted text "..."
                    and                            | 1  | expected a name, a quoted text, "not" or "(" but found "and"
                    not                            | 4  | expected a name, a quoted text, "not" or "(" but found the end
                    """)
    void saysWhereAndWhatWasExpected(String condition, int column, String problem) {
        ConditionException e = assertThrows(ConditionException.class, () -> Condition.parse(condition));

        assertEquals(problem, e.problem());
        assertEquals(column, e.column());
        assertEquals(condition, e.condition());
    }

    @Test
    void theMessagePointsWithACaret() {
        ConditionException e = assertThrows(ConditionException.class, () -> Condition.parse("level >= wran"));

        assertTrue(e.getMessage().endsWith("\n  level >= wran\n           ^"), e.getMessage());
    }

    @Test
    void aConditionMadeToExhaustTheStackIsRefused() {
        String hostile = "not ".repeat(100_000) + "x = 1";

        assertEquals(
                "the condition is nested more than 100 levels deep",
                assertThrows(ConditionException.class, () -> Condition.parse(hostile))
                        .problem());
    }
}
