package dev.graphema.condition;

import dev.graphema.event.Attribute;
import dev.graphema.event.Subject;
import dev.graphema.event.ValueTest;
import java.util.List;
import java.util.function.Predicate;

/** Translates a condition into a predicate of subjects that looks nothing up and creates no objects. */
final class Evaluation implements Resolved.Fold<Predicate<Subject>> {
    static final Evaluation FOLD = new Evaluation();

    private Evaluation() {}

    @Override
    public Predicate<Subject> all(List<Predicate<Subject>> parts) {
        Predicate<Subject>[] all = array(parts);
        if (all.length == 0) {
            return subject -> true;
        }
        return subject -> {
            for (Predicate<Subject> part : all) {
                if (!part.test(subject)) {
                    return false;
                }
            }
            return true;
        };
    }

    @Override
    public Predicate<Subject> any(List<Predicate<Subject>> parts) {
        Predicate<Subject>[] all = array(parts);
        return subject -> {
            for (Predicate<Subject> part : all) {
                if (part.test(subject)) {
                    return true;
                }
            }
            return false;
        };
    }

    @SuppressWarnings("unchecked") // an array of a generic type cannot be created otherwise
    private static Predicate<Subject>[] array(List<Predicate<Subject>> parts) {
        return parts.toArray(Predicate[]::new);
    }

    @Override
    public Predicate<Subject> not(Predicate<Subject> part) {
        return subject -> !part.test(subject);
    }

    @Override
    public Predicate<Subject> present(Name name) {
        return value(name, AnyValue.TEST);
    }

    @Override
    public Predicate<Subject> value(Name name, Accepted accepted) {
        return value(name, new AcceptedValues(accepted));
    }

    private static Predicate<Subject> value(Name name, ValueTest test) {
        Attribute attribute = name.attribute();
        if (attribute != null) {
            return subject -> subject.test(attribute, test);
        }
        String field = name.field();
        return subject -> subject.test(field, test);
    }

    @Override
    public Predicate<Subject> text(TextRule rule) {
        Predicate<String> test = rule.test();
        return subject -> subject.anyText(test);
    }
}
