package dev.graphema.condition;

import dev.graphema.event.EventValues;
import java.time.ZoneId;
import java.util.LinkedHashSet;
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
    /** True of every event; what an empty text means. */
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
     * Reads a condition; local times in it are those of the system's zone.
     *
     * @throws ConditionException when the text is none
     */
    public static Condition parse(String text) {
        return parse(text, ZoneId::systemDefault);
    }

    /**
     * Reads a condition; local times in it are those of the zone.
     *
     * @throws ConditionException when the text is none
     */
    public static Condition parse(String text, ZoneId zone) {
        return parse(text, () -> zone);
    }

    /**
     * Reads a condition, and asks for the zone only if there is a local time in it: the rules of a zone come from the disk.
     *
     * @throws ConditionException when the text is none
     */
    public static Condition parse(String text, Supplier<ZoneId> zone) {
        return new Condition(new Parser(text, zone).parse());
    }

    /** The condition that the tree says. */
    public static Condition of(Expression expression) {
        return new Condition(expression);
    }

    /** Whether it is true of every event because it is empty. */
    public boolean isEverything() {
        return expression instanceof Expression.Everything;
    }

    public boolean matches(EventValues subject) {
        return predicate.test(subject);
    }

    /** The names of attributes and fields that the condition looks at, in the order in which they stand. */
    public Set<Name> names() {
        Set<Name> names = new LinkedHashSet<>();
        expression.names(names);
        return names;
    }

    /** The meaning of the condition, with all rules of the language applied. */
    public Resolved resolved() {
        return resolved;
    }

    /** The condition as it is written, as a syntax tree. */
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

    /** The condition in its canonical form; empty for one that is true of every event. */
    @Override
    public String toString() {
        return expression.toString();
    }
}
