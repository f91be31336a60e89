package dev.graphema.condition;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.math.BigDecimal;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ResolvedTest {
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "level >= warn|level: level >= WARN",
                "status = 503|status: number = 503 or text as number = 503 or text = \"503\"",
                "lock_wait_ms > 0.25s|lock_wait_ms: number > 250 or duration > PT0.25S or text as duration > PT0.25S",
                "elapsed > 1s|elapsed: duration > PT1S or text as duration > PT1S",
                "vehicle = coach|vehicle: number written coach or text = \"coach\"",
                "paid = true|paid: number written true or boolean = true or text = \"true\"",
                "x between 1 and 5|x: number >= 1 and <= 5 or text as number >= 1 and text as number <= 5",
                "x in (a, b)|(x: number written a or text = \"a\") or (x: number written b or text = \"b\")",
                "x != a|(x exists) and (not (x: number written a or text = \"a\"))",
                "x missing|not (x exists)",
                "message like \"deck*\"|message: text like \"deck*\"",
                "\"lane not free\"|any text has \"lane not free\"",
                "\"deck refused\" within 3|any text has words \"deck refused\" within 3",
                "a exists and not (b exists or c exists)|(a exists) and (not ((b exists) or (c exists)))"
            })
    void everyRuleIsExplicit(String condition, String resolved) {
        assertEquals(resolved, Condition.parse(condition).resolved().toString());
    }

    @Test
    void anEmptyConditionIsTrue() {
        assertEquals(Resolved.TRUE, Condition.EVERYTHING.resolved());
        assertEquals("true", Resolved.TRUE.toString());
        assertEquals("false", Resolved.FALSE.toString());
    }

    @Test
    void constantsAreSimplified() {
        Resolved leaf = new Resolved.Present(Name.of("a"));
        assertEquals(leaf, Resolved.all(List.of(Resolved.TRUE, leaf)));
        assertEquals(Resolved.FALSE, Resolved.all(List.of(Resolved.FALSE, leaf)));
        assertEquals(leaf, Resolved.any(List.of(leaf, Resolved.FALSE)));
        assertEquals(Resolved.TRUE, Resolved.any(List.of(leaf, Resolved.TRUE)));
        assertEquals(Resolved.FALSE, Resolved.not(Resolved.TRUE));
    }

    @ParameterizedTest
    @CsvSource({
        "=,0,-1,1",
        "<,-1,0,1",
        "<=,0,1,2",
        ">,1,0,-1",
        ">=,0,-1,-2",
    })
    void aRangeContainsWhatTheOperatorAccepts(String operator, int inside, int outside, int farther) {
        Range<BigDecimal> range = Range.of(Operator.of(operator), new BigDecimal("0.0"));
        assertTrue(range.contains(BigDecimal.valueOf(inside)));
        assertFalse(range.contains(BigDecimal.valueOf(outside)));
        assertEquals(
                operator.startsWith("=") ? farther == 0 : !range.contains(BigDecimal.valueOf(inside)),
                range.contains(BigDecimal.valueOf(farther)));
    }

    @Test
    void rangesIntersect() {
        Range<Integer> atLeastOne = Range.of(Operator.AT_LEAST, 1);
        Range<Integer> below5 = Range.of(Operator.LESS, 5);
        assertEquals(new Range<>(1, true, 5, false), atLeastOne.and(below5));
        assertEquals(new Range<>(1, true, 5, false), below5.and(atLeastOne));
        assertEquals(Range.of(Operator.MORE, 1), atLeastOne.and(Range.of(Operator.MORE, 1)));
        assertEquals(Range.of(Operator.LESS, 5), below5.and(Range.of(Operator.AT_MOST, 5)));
        assertFalse(Range.of(Operator.MORE, 5).and(below5).contains(5));
    }
}
