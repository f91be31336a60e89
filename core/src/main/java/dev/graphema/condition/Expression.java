package dev.graphema.condition;

import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * The syntax tree of a condition. {@code toString} returns a text in the condition language; parsing it results in an
 * equal tree.
 */
public sealed interface Expression {
    /** Adds the names in the condition, in their order. */
    default void names(Set<Name> names) {}

    /** True for every event. */
    record Everything() implements Expression {
        @Override
        public String toString() {
            return "";
        }
    }

    /** True if all parts are true; two or more parts. */
    record And(List<Expression> parts) implements Expression {
        @Override
        public void names(Set<Name> names) {
            parts.forEach(part -> part.names(names));
        }

        @Override
        public String toString() {
            return parts.stream()
                    .map(part -> part instanceof Or ? "(" + part + ")" : part.toString())
                    .collect(Collectors.joining(" and "));
        }
    }

    /** True if any part is true; two or more parts. */
    record Or(List<Expression> parts) implements Expression {
        @Override
        public void names(Set<Name> names) {
            parts.forEach(part -> part.names(names));
        }

        @Override
        public String toString() {
            return parts.stream().map(Expression::toString).collect(Collectors.joining(" or "));
        }
    }

    record Not(Expression part) implements Expression {
        @Override
        public void names(Set<Name> names) {
            part.names(names);
        }

        @Override
        public String toString() {
            return part instanceof And || part instanceof Or ? "not (" + part + ")" : "not " + part;
        }
    }

    /** A comparison with one literal. */
    record Comparison(Name name, Operator operator, Literal literal) implements Expression {
        @Override
        public void names(Set<Name> names) {
            names.add(name);
        }

        @Override
        public String toString() {
            return name + " " + operator + " " + literal;
        }
    }

    /** A range, both bounds included. */
    record Between(Name name, Literal low, Literal high) implements Expression {
        @Override
        public void names(Set<Name> names) {
            names.add(name);
        }

        @Override
        public String toString() {
            return name + " between " + low + " and " + high;
        }
    }

    /** A comparison with a list of literals. */
    record OneOf(Name name, List<Literal> literals) implements Expression {
        @Override
        public void names(Set<Name> names) {
            names.add(name);
        }

        @Override
        public String toString() {
            return literals.stream().map(Literal::toString).collect(Collectors.joining(", ", name + " in (", ")"));
        }
    }

    /** Whether the event has the attribute or field. */
    record Presence(Name name, boolean exists) implements Expression {
        @Override
        public void names(Set<Name> names) {
            names.add(name);
        }

        @Override
        public String toString() {
            return name + (exists ? " exists" : " missing");
        }
    }

    /**
     * Words near each other in one text of the event, in any order, ignoring case.
     *
     * @param others the most other words between the first and the last of them
     */
    record Nearby(String words, int others) implements Expression {
        @Override
        public String toString() {
            return Literal.quoted(words) + " within " + others;
        }
    }

    /** A text within any text of the event, ignoring case. */
    record Phrase(String text) implements Expression {
        @Override
        public String toString() {
            return Literal.quoted(text);
        }
    }
}
