package dev.graphema.condition;

import dev.graphema.event.EventValues;
import java.time.ZoneId;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;
import java.util.function.Supplier;

/**
 * A question about an event, in the condition language: {@code level >= warn and service = deck and lock_wait_ms > 250}.
 * Immutable and safe to share between threads.
 *
 * <pre>{@code
 * Condition slow = Condition.parse("service = deck and elapsed > 250ms");
 * if (slow.matches(event)) { ... }
 * }</pre>
 */
public final class Condition {
    /** The condition that is true for every event; an empty text. */
    public static final Condition EVERYTHING = new Condition(new Expression.Everything());

    private final Expression expression;
    private final Resolved resolved;
    private final Predicate<EventValues> predicate;

    private Condition(Expression expression) {
        this.expression = expression;
        this.resolved = Resolver.resolve(expression);
        this.predicate = resolved.predicate();
    }

    /**
     * Parses a condition. Local times are in the time zone of the system.
     *
     * @throws ConditionException if the text is not a condition
     */
    public static Condition parse(String text) {
        return parse(text, ZoneId::systemDefault);
    }

    /**
     * Parses a condition. Local times are in the given zone.
     *
     * @throws ConditionException if the text is not a condition
     */
    public static Condition parse(String text, ZoneId zone) {
        return parse(text, () -> zone);
    }

    /**
     * Parses a condition. The zone is requested only if the condition contains a local time, because its rules are read
     * from the disk.
     *
     * @throws ConditionException if the text is not a condition
     */
    public static Condition parse(String text, Supplier<ZoneId> zone) {
        return new Condition(new Parser(text, zone).parse());
    }

    /** Returns the condition of a syntax tree. */
    public static Condition of(Expression expression) {
        return new Condition(expression);
    }

    /** Returns the condition that both conditions must be true. */
    public Condition and(Condition other) {
        if (isEverything() || other.isEverything()) {
            return isEverything() ? other : this;
        }
        return of(new Expression.And(List.of(expression, other.expression)));
    }

    /** Returns the condition that at least one of the conditions must be true. */
    public Condition or(Condition other) {
        if (isEverything() || other.isEverything()) {
            return EVERYTHING;
        }
        return of(new Expression.Or(List.of(expression, other.expression)));
    }

    /** Returns whether the condition is empty, and so true for every event. */
    public boolean isEverything() {
        return expression instanceof Expression.Everything;
    }

    public boolean matches(EventValues subject) {
        return predicate.test(subject);
    }

    /** Returns the names of attributes and fields in the condition, in their order. */
    public Set<Name> names() {
        Set<Name> names = new LinkedHashSet<>();
        expression.names(names);
        return names;
    }

    /** Returns the meaning of the condition, with all rules of the language applied. */
    public Resolved resolved() {
        return resolved;
    }

    /** Returns the condition as it was written, as a syntax tree. */
    public Expression expression() {
        return expression;
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof Condition that && expression.equals(that.expression);
    }

    @Override
    public int hashCode() {
        return expression.hashCode();
    }

    /** Returns the canonical form of the condition; empty if it is true for every event. */
    @Override
    public String toString() {
        return expression.toString();
    }
}
