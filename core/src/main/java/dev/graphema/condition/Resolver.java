package dev.graphema.condition;

import dev.graphema.event.Level;
import java.math.BigDecimal;
import java.time.Duration;
import java.util.List;

/** Applies the rules of the language to a syntax tree: the table in docs/conditions.md. */
final class Resolver {
    private Resolver() {}

    static Resolved resolve(Expression expression) {
        if (expression instanceof Expression.Everything) {
            return Resolved.TRUE;
        }
        if (expression instanceof Expression.And and) {
            return new Resolved.All(all(and.parts()));
        }
        if (expression instanceof Expression.Or or) {
            return new Resolved.Any(all(or.parts()));
        }
        if (expression instanceof Expression.Not not) {
            return new Resolved.Not(resolve(not.part()));
        }
        return new Resolved.Written(expression, leaf(expression));
    }

    private static List<Resolved> all(List<Expression> parts) {
        return parts.stream().map(Resolver::resolve).toList();
    }

    private static Resolved leaf(Expression expression) {
        if (expression instanceof Expression.Comparison comparison) {
            return comparison(comparison.name(), comparison.operator(), comparison.literal());
        }
        if (expression instanceof Expression.Between between) {
            Name name = between.name();
            return new Resolved.HasValue(
                    name,
                    accepted(name, Operator.AT_LEAST, between.low())
                            .and(accepted(name, Operator.AT_MOST, between.high())));
        }
        if (expression instanceof Expression.OneOf oneOf) {
            return new Resolved.Any(oneOf.literals().stream()
                    .map(literal -> comparison(oneOf.name(), Operator.EQUAL, literal))
                    .toList());
        }
        if (expression instanceof Expression.Presence presence) {
            Resolved present = new Resolved.Present(presence.name());
            return presence.exists() ? present : new Resolved.Not(present);
        }
        if (expression instanceof Expression.Nearby nearby) {
            return new Resolved.HasText(new TextRule.Within(nearby.words(), nearby.others()));
        }
        return new Resolved.HasText(new TextRule.Contains(((Expression.Phrase) expression).text()));
    }

    private static Resolved comparison(Name name, Operator operator, Literal literal) {
        if (operator == Operator.NOT_EQUAL) {
            return new Resolved.All(
                    List.of(new Resolved.Present(name), new Resolved.Not(comparison(name, Operator.EQUAL, literal))));
        }
        return new Resolved.HasValue(
                name,
                operator.isOfText()
                        ? Accepted.textsOnly(textRule(operator, literal.source()))
                        : accepted(name, operator, literal));
    }

    private static TextRule textRule(Operator operator, String text) {
        return switch (operator) {
            case STARTS -> new TextRule.StartsWith(text);
            case ENDS -> new TextRule.EndsWith(text);
            case HAS -> new TextRule.Contains(text);
            case MATCHES -> new TextRule.Matches(text);
            case LIKE -> new TextRule.Like(text);
            case NEAR -> new TextRule.Near(text);
            default -> throw new IllegalArgumentException(operator + " (expected: an operator for texts)");
        };
    }

    private static Accepted accepted(Name name, Operator operator, Literal literal) {
        boolean isEqual = operator == Operator.EQUAL;
        Object value = literal.value();
        Range<Duration> durations = value instanceof Duration duration ? Range.of(operator, duration) : null;
        return new Accepted(
                numbers(Unit.of(name.field()), operator, value),
                isEqual && value instanceof String ? literal.source() : null,
                durations,
                value instanceof Long time ? Range.of(operator, time) : null,
                value instanceof Level level ? Range.of(operator, level) : null,
                isEqual ? bool(literal.source()) : null,
                isEqual && !literal.quoted() && literal.source().equals("null"),
                texts(operator, literal));
    }

    /** A duration is compared with numbers only if the name of the field ends with a unit. */
    private static Range<BigDecimal> numbers(Unit unit, Operator operator, Object value) {
        if (value instanceof BigDecimal number) {
            return Range.of(operator, number);
        }
        return value instanceof Duration duration && unit != Unit.NONE
                ? Range.of(operator, unit.count(duration))
                : null;
    }

    private static Boolean bool(String source) {
        return source.equalsIgnoreCase("true") ? Boolean.TRUE : source.equalsIgnoreCase("false") ? Boolean.FALSE : null;
    }

    private static TextRule texts(Operator operator, Literal literal) {
        if (literal.value() instanceof Level) {
            return TextRule.Never.RULE;
        }
        TextRule rule = typed(operator, literal);
        TextRule same = new TextRule.Equal(literal.source());
        return operator != Operator.EQUAL ? rule : rule == null ? same : new TextRule.Either(rule, same);
    }

    /** Null for a text that is compared by {@code =}. */
    private static TextRule typed(Operator operator, Literal literal) {
        if (literal.value() instanceof BigDecimal number) {
            return new TextRule.AsNumber(Range.of(operator, number));
        }
        if (literal.value() instanceof Duration duration) {
            return new TextRule.AsDuration(Range.of(operator, duration));
        }
        if (literal.value() instanceof Long time) {
            return new TextRule.AsTime(Range.of(operator, time));
        }
        return operator == Operator.EQUAL ? null : new TextRule.InOrder(Range.of(operator, literal.source()));
    }
}
