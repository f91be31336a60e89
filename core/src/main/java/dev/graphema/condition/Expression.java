package dev.graphema.condition;

import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * A condition as a tree of plain values. {@code toString} writes it in the condition language so that parsing it again
 * gives an equal tree.
 */
public sealed interface Expression {
    /** Adds the names that the condition looks at, in the order in which they stand. */
    default void names(Set<Name> names) {}

    /** True of every event. */
    record Everything() implements Expression {
        @Override
        public String toString() {
            return "";
        }
    }

    /** True when all parts are; two parts or more. */
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

    /** True when one of the parts is; two parts or more. */
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

    /** A value compared with one literal. */
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

    /** A value from the low literal to the high one, both included. */
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

    /** A value equal to one of the literals. */
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

    /** Whether the event has something of that name. */
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
     * Words that occur in one of the event's texts, in any order and any case, near to each other.
     *
     * @param others how many other words may stand between the first and the last of them
     */
    record Nearby(String words, int others) implements Expression {
        @Override
        public String toString() {
            return Literal.quoted(words) + " within " + others;
        }
    }

    /** A text that occurs anywhere among the event's texts, in any case. */
    record Phrase(String text) implements Expression {
        @Override
        public String toString() {
            return Literal.quoted(text);
        }
    }
}
