package dev.graphema.condition;

import dev.graphema.event.EventValues;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.function.Predicate;
import java.util.stream.Collectors;

/**
 * The meaning of a condition: a tree in which every rule of the language is explicit. A source of events that wants to evaluate
 * conditions itself translates this tree with a {@link Fold} and needs no other knowledge of the language. Immutable.
 *
 * <p>All nodes are two-valued. A missing value is not accepted by any {@link HasValue}; {@code !=} therefore resolves to
 * {@link Present} and not {@link HasValue}.
 */
public sealed interface Resolved {
    /** True for every event. */
    Resolved TRUE = new All(List.of());

    /** True for no event. */
    Resolved FALSE = new Any(List.of());

    /** True if all parts are true; without parts, true. */
    record All(List<Resolved> parts) implements Resolved {
        public All {
            parts = List.copyOf(parts);
        }

        @Override
        public String toString() {
            return parts.isEmpty() ? "true" : joined(parts, " and ");
        }
    }

    /** True if any part is true; without parts, false. */
    record Any(List<Resolved> parts) implements Resolved {
        public Any {
            parts = List.copyOf(parts);
        }

        @Override
        public String toString() {
            return parts.isEmpty() ? "false" : joined(parts, " or ");
        }
    }

    /** True if the part is false. */
    record Not(Resolved part) implements Resolved {
        @Override
        public String toString() {
            return "not (" + part + ")";
        }
    }

    /** True if the event has the attribute or field; its value may be null, a group or an empty text. */
    record Present(Name name) implements Resolved {
        @Override
        public String toString() {
            return name + " exists";
        }
    }

    /**
     * True if the event has an accepted value of that name: of a list, any item; of {@code failure.type} and
     * {@code failure.message}, the value of the failure or of any of its causes.
     */
    record HasValue(Name name, Accepted accepted) implements Resolved {
        @Override
        public String toString() {
            return name + ": " + accepted;
        }
    }

    /** True if any text of the event is accepted: message, logger, service, instance, texts in fields, types and messages of the failure. */
    record HasText(TextRule rule) implements Resolved {
        @Override
        public String toString() {
            return "any " + rule;
        }
    }

    /** True if the part is; keeps the comparison from which the part was resolved, for explanations. */
    record Written(Expression expression, Resolved part) implements Resolved {
        @Override
        public String toString() {
            return part.toString();
        }
    }

    /**
     * Computes a result from the leaves of the tree upwards.
     *
     * @param <R> the result of a node
     */
    interface Fold<R> {
        R all(List<R> parts);

        R any(List<R> parts);

        R not(R part);

        R present(Name name);

        R value(Name name, Accepted accepted);

        R text(TextRule rule);

        /** For folds that report what was written. */
        default R written(Expression expression, R part) {
            return part;
        }
    }

    /** A predicate with this meaning, for any thread. Patterns are compiled once, when this is called. */
    default Predicate<EventValues> predicate() {
        return fold(Evaluation.FOLD);
    }

    /** The result of the fold for this node. */
    default <R> R fold(Fold<R> fold) {
        if (this instanceof All all) {
            return fold.all(results(all.parts(), fold));
        }
        if (this instanceof Any any) {
            return fold.any(results(any.parts(), fold));
        }
        if (this instanceof Not not) {
            return fold.not(not.part().fold(fold));
        }
        if (this instanceof Present present) {
            return fold.present(present.name());
        }
        if (this instanceof HasValue value) {
            return fold.value(value.name(), value.accepted());
        }
        if (this instanceof HasText text) {
            return fold.text(text.rule());
        }
        Written written = (Written) this;
        return fold.written(written.expression(), written.part().fold(fold));
    }

    private static <R> List<R> results(List<Resolved> parts, Fold<R> fold) {
        List<R> results = new ArrayList<>(parts.size());
        for (Resolved part : parts) {
            results.add(part.fold(fold));
        }
        return results;
    }

    /** True if all parts are; simplified: {@link #TRUE} is left out, and {@link #FALSE} decides. */
    static Resolved all(List<Resolved> parts) {
        if (parts.contains(FALSE)) {
            return FALSE;
        }
        List<Resolved> left = parts.stream().filter(part -> !part.equals(TRUE)).toList();
        return left.size() == 1 ? left.get(0) : new All(left);
    }

    /** True if any part is; simplified: {@link #FALSE} is left out, and {@link #TRUE} decides. */
    static Resolved any(List<Resolved> parts) {
        if (parts.contains(TRUE)) {
            return TRUE;
        }
        List<Resolved> left = parts.stream().filter(part -> !part.equals(FALSE)).toList();
        return left.size() == 1 ? left.get(0) : new Any(left);
    }

    /** True if the part is false; simplified. */
    static Resolved not(Resolved part) {
        Objects.requireNonNull(part, "part");
        return part.equals(TRUE) ? FALSE : part.equals(FALSE) ? TRUE : new Not(part);
    }

    private static String joined(List<Resolved> parts, String word) {
        return parts.stream().map(part -> "(" + part + ")").collect(Collectors.joining(word));
    }
}
