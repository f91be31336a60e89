package dev.graphema.condition;

import dev.graphema.event.Attribute;
import dev.graphema.event.EventValues;
import dev.graphema.event.ValuePredicate;
import java.util.List;
import java.util.function.Predicate;

/** Translates a condition into a predicate that performs no lookups and creates no objects. */
final class Evaluation implements Resolved.Fold<Predicate<EventValues>> {
    static final Evaluation FOLD = new Evaluation();

    private Evaluation() {}

    @Override
    public Predicate<EventValues> all(List<Predicate<EventValues>> parts) {
        Predicate<EventValues>[] all = array(parts);
        if (all.length == 0) {
            return subject -> true;
        }
        return subject -> {
            for (Predicate<EventValues> part : all) {
                if (!part.test(subject)) {
                    return false;
                }
            }
            return true;
        };
    }

    @Override
    public Predicate<EventValues> any(List<Predicate<EventValues>> parts) {
        Predicate<EventValues>[] all = array(parts);
        return subject -> {
            for (Predicate<EventValues> part : all) {
                if (part.test(subject)) {
                    return true;
                }
            }
            return false;
        };
    }

    @SuppressWarnings("unchecked") // an array of a generic type cannot be created otherwise
    private static Predicate<EventValues>[] array(List<Predicate<EventValues>> parts) {
        return parts.toArray(Predicate[]::new);
    }

    @Override
    public Predicate<EventValues> not(Predicate<EventValues> part) {
        return subject -> !part.test(subject);
    }

    @Override
    public Predicate<EventValues> present(Name name) {
        return value(name, AnyValue.TEST);
    }

    @Override
    public Predicate<EventValues> value(Name name, Accepted accepted) {
        return value(name, new AcceptedValues(accepted));
    }

    private static Predicate<EventValues> value(Name name, ValuePredicate test) {
        Attribute attribute = name.attribute();
        if (attribute != null) {
            return subject -> subject.test(attribute, test);
        }
        String field = name.field();
        return subject -> subject.test(field, test);
    }

    @Override
    public Predicate<EventValues> text(TextRule rule) {
        Predicate<String> test = rule.test();
        return subject -> subject.anyText(test);
    }
}
