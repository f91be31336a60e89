package dev.graphema.condition;

import dev.graphema.event.Level;
import java.math.BigDecimal;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/**
 * Which values of a field or attribute a comparison accepts, by the type of the stored value. A component that is null accepts
 * no value of its type. Groups are never accepted. Immutable.
 *
 * <p>This is where the types of stored values and literals meet: for {@code lock_wait_ms > 0.25s}, durations above 0.25 s are
 * accepted, numbers above 250, and texts that are such durations.
 *
 * @param numbers accepted numbers
 * @param numeral the text of further accepted numbers: those whose plain decimal form is this text
 * @param durations accepted durations
 * @param times accepted times, in nanoseconds since 1970
 * @param levels accepted levels
 * @param bool the accepted boolean
 * @param acceptsNull whether the value null is accepted
 * @param texts accepted texts
 */
public record Accepted(
        Range<BigDecimal> numbers,
        String numeral,
        Range<Duration> durations,
        Range<Long> times,
        Range<Level> levels,
        Boolean bool,
        boolean acceptsNull,
        TextRule texts) {
    /** Accepts only texts. */
    static Accepted textsOnly(TextRule rule) {
        return new Accepted(null, null, null, null, null, null, false, rule);
    }

    /** Returns whether there are numbers that are accepted for their {@link #numeral text}. */
    public boolean acceptsNumeral() {
        char first = numeral == null || numeral.isEmpty() ? ' ' : numeral.charAt(0);
        return first == '-' || first >= '0' && first <= '9';
    }

    /** The values that are accepted by both, for ranges with a lower and an upper bound. */
    Accepted and(Accepted other) {
        return new Accepted(
                both(numbers, other.numbers),
                numeral != null && numeral.equals(other.numeral) ? numeral : null,
                both(durations, other.durations),
                both(times, other.times),
                both(levels, other.levels),
                bool != null && bool.equals(other.bool) ? bool : null,
                acceptsNull && other.acceptsNull,
                new TextRule.Both(texts, other.texts));
    }

    private static <T extends Comparable<? super T>> Range<T> both(Range<T> one, Range<T> other) {
        return one == null || other == null ? null : one.and(other);
    }

    /** The accepted values by type, such as {@code number > 250 or text as number > 250}. */
    @Override
    public String toString() {
        List<String> all = new ArrayList<>();
        add(all, "number ", numbers);
        add(all, "number written ", numeral);
        add(all, "duration ", durations);
        add(all, "time ", times);
        add(all, "level ", levels);
        add(all, "boolean = ", bool);
        if (acceptsNull) {
            all.add("null");
        }
        if (texts != TextRule.Never.RULE) {
            all.add(texts.toString());
        }
        return all.isEmpty() ? "no value" : String.join(" or ", all);
    }

    private static void add(List<String> all, String type, Object accepted) {
        if (accepted != null) {
            all.add(type + accepted);
        }
    }
}
