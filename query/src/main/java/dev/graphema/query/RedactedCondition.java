package dev.graphema.query;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Expression;
import dev.graphema.condition.Expression.And;
import dev.graphema.condition.Expression.Comparison;
import dev.graphema.condition.Expression.Not;
import dev.graphema.condition.Expression.OneOf;
import dev.graphema.condition.Expression.Or;
import dev.graphema.condition.Expression.Phrase;
import dev.graphema.condition.Literal;
import dev.graphema.condition.Name;
import dev.graphema.condition.Operator;
import dev.graphema.event.Draft;
import dev.graphema.event.Fields;
import dev.graphema.redaction.Pseudonyms;
import dev.graphema.redaction.Redactor;
import dev.graphema.settings.RedactionSettings;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/**
 * Searches redacted logs by plain values: a value in a comparison with {@code =}, {@code !=} or {@code in}, and a
 * phrase, also matches the replacement that redaction with the same settings produces. With pseudonyms, this finds the
 * same person; with a fixed text, all values with the same replacement.
 */
public final class RedactedCondition {
    private final Redactor redactor;
    private final Pseudonyms pseudonyms;

    private RedactedCondition(RedactionSettings redaction) {
        redactor = redaction.redactor();
        pseudonyms = redaction.pseudonyms();
    }

    /** Returns the condition for logs that were written with these settings; an equal one if nothing is redacted. */
    public static Condition of(Condition wanted, RedactionSettings redaction) {
        return Condition.of(new RedactedCondition(redaction).of(wanted.expression()));
    }

    private Expression of(Expression expression) {
        if (expression instanceof And and) {
            return new And(and.parts().stream().map(this::of).toList());
        }
        if (expression instanceof Or or) {
            return new Or(or.parts().stream().map(this::of).toList());
        }
        if (expression instanceof Not not) {
            return new Not(of(not.part()));
        }
        if (expression instanceof Comparison comparison) {
            return comparison(comparison);
        }
        if (expression instanceof OneOf oneOf) {
            Set<Literal> all = new LinkedHashSet<>(oneOf.literals());
            oneOf.literals().forEach(literal -> instead(oneOf.name(), literal).forEach(all::add));
            return new OneOf(oneOf.name(), List.copyOf(all));
        }
        return expression instanceof Phrase phrase ? phrase(phrase) : expression;
    }

    private Expression comparison(Comparison comparison) {
        boolean isEqual = comparison.operator() == Operator.EQUAL;
        if (!isEqual && comparison.operator() != Operator.NOT_EQUAL) {
            return comparison;
        }
        List<Expression> all = new ArrayList<>(List.of(comparison));
        for (Literal instead : instead(comparison.name(), comparison.literal())) {
            all.add(new Comparison(comparison.name(), comparison.operator(), instead));
        }
        return all.size() == 1 ? comparison : isEqual ? new Or(all) : new And(all);
    }

    private Expression phrase(Phrase phrase) {
        Set<Expression> all = new LinkedHashSet<>(List.of(phrase));
        all.add(new Phrase(redactor.redact(phrase.text())));
        if (pseudonyms != null) {
            all.add(new Phrase(pseudonyms.treat(phrase.text(), "")));
        }
        return all.size() == 1 ? phrase : new Or(List.copyOf(all));
    }

    /** Returns the replacements of a value under this name, without the value itself. */
    private Set<Literal> instead(Name name, Literal literal) {
        Set<Literal> instead = new LinkedHashSet<>();
        if (name.attribute() != null && !(literal.value() instanceof String)) {
            return instead;
        }
        String plain = literal.source();
        if (name.attribute() != null) {
            instead.add(Literal.of(redactor.redact(plain)));
        } else {
            Draft draft = new Draft().fields(f -> f.put(name.field(), plain));
            redactor.redact(draft);
            Fields fields = draft.finish().fields();
            if (fields.get(name.field()) instanceof String text) {
                instead.add(Literal.of(text));
            }
        }
        if (pseudonyms != null) {
            instead.add(Literal.of(pseudonyms.treat(plain, "")));
        }
        instead.removeIf(each -> each.source().equals(plain));
        return instead;
    }
}
