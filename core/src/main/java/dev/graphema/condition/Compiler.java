package dev.graphema.condition;

import dev.graphema.event.ValueTest;
import java.util.List;
import java.util.Locale;

/** Turns the tree of a condition into objects that answer without looking anything up or making anything new. */
final class Compiler {
    private Compiler() {}

    static Matcher compile(Expression expression) {
        if (expression instanceof Expression.Everything) {
            return subject -> true;
        }
        if (expression instanceof Expression.And and) {
            Matcher[] parts = all(and.parts());
            return subject -> {
                for (Matcher part : parts) {
                    if (!part.matches(subject)) {
                        return false;
                    }
                }
                return true;
            };
        }
        if (expression instanceof Expression.Or or) {
            Matcher[] parts = all(or.parts());
            return subject -> {
                for (Matcher part : parts) {
                    if (part.matches(subject)) {
                        return true;
                    }
                }
                return false;
            };
        }
        if (expression instanceof Expression.Not not) {
            Matcher part = compile(not.part());
            return subject -> !part.matches(subject);
        }
        if (expression instanceof Expression.Comparison comparison) {
            return comparison(comparison);
        }
        if (expression instanceof Expression.Between between) {
            Name name = between.name();
            return value(
                    name,
                    new BetweenTest(
                            compare(name, Operator.AT_LEAST, between.low()),
                            compare(name, Operator.AT_MOST, between.high())));
        }
        if (expression instanceof Expression.OneOf oneOf) {
            Matcher[] equals = oneOf.literals().stream()
                    .map(literal -> value(oneOf.name(), compare(oneOf.name(), Operator.EQUAL, literal)))
                    .toArray(Matcher[]::new);
            return subject -> {
                for (Matcher equal : equals) {
                    if (equal.matches(subject)) {
                        return true;
                    }
                }
                return false;
            };
        }
        if (expression instanceof Expression.Presence presence) {
            Matcher exists = value(presence.name(), AnyValue.TEST);
            return presence.exists() ? exists : subject -> !exists.matches(subject);
        }
        if (expression instanceof Expression.Nearby nearby) {
            var test = WordTest.within(nearby.words(), nearby.others());
            return subject -> subject.anyText(test);
        }
        String phrase = ((Expression.Phrase) expression).text().toLowerCase(Locale.ROOT);
        return subject -> subject.anyText(text -> TextTest.contains(text, phrase));
    }

    private static Matcher[] all(List<Expression> parts) {
        return parts.stream().map(Compiler::compile).toArray(Matcher[]::new);
    }

    private static Matcher comparison(Expression.Comparison comparison) {
        Name name = comparison.name();
        Operator operator = comparison.operator();
        if (operator.isOfText()) {
            return value(name, TextTest.of(operator, comparison.literal().source()));
        }
        if (operator == Operator.NOT_EQUAL) {
            // "Not equal" is said of a value that is there: a missing one satisfies no comparison.
            Matcher exists = value(name, AnyValue.TEST);
            Matcher equal = value(name, compare(name, Operator.EQUAL, comparison.literal()));
            return subject -> exists.matches(subject) && !equal.matches(subject);
        }
        return value(name, compare(name, operator, comparison.literal()));
    }

    private static ValueTest compare(Name name, Operator operator, Literal literal) {
        return new ComparisonTest(operator, literal, Unit.of(name.field()));
    }

    private static Matcher value(Name name, ValueTest test) {
        if (name.attribute() != null) {
            var attribute = name.attribute();
            return subject -> subject.test(attribute, test);
        }
        String field = name.field();
        return subject -> subject.test(field, test);
    }
}
