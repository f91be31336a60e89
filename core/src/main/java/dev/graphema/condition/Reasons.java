package dev.graphema.condition;

import dev.graphema.event.Decimals;
import dev.graphema.event.Durations;
import dev.graphema.event.Level;
import dev.graphema.event.Subject;
import dev.graphema.event.Times;
import dev.graphema.event.ValueTest;
import java.math.BigDecimal;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/** Which parts of a condition decide about a subject, and what they found there. */
public final class Reasons {
    private final Subject subject;
    private final List<String> reasons = new ArrayList<>();

    private Reasons(Subject subject) {
        this.subject = subject;
    }

    /**
     * The deciding parts, each with its answer: {@code level >= warn is false: level is info}. Of an {@code and} that fails,
     * the first part that does; of an {@code or} that holds, the first part that does.
     */
    public static List<String> of(Condition condition, Subject subject) {
        Reasons reasons = new Reasons(subject);
        reasons.add(condition.expression());
        return reasons.reasons;
    }

    private void add(Expression expression) {
        if (expression instanceof Expression.And and) {
            deciding(and.parts(), false);
        } else if (expression instanceof Expression.Or or) {
            deciding(or.parts(), true);
        } else if (expression instanceof Expression.Not not) {
            add(not.part());
        } else if (!(expression instanceof Expression.Everything)) {
            reasons.add(expression + " is " + holds(expression) + found(expression));
        }
    }

    /** The first part with the answer that decides alone, or else all of them. */
    private void deciding(List<Expression> parts, boolean answer) {
        for (Expression part : parts) {
            if (holds(part) == answer) {
                add(part);
                return;
            }
        }
        parts.forEach(this::add);
    }

    private boolean holds(Expression expression) {
        return Condition.of(expression).matches(subject);
    }

    private String found(Expression expression) {
        Set<Name> names = new LinkedHashSet<>();
        expression.names(names);
        StringBuilder found = new StringBuilder();
        for (Name name : names) {
            Shown shown = new Shown();
            boolean exists = name.attribute() == null
                    ? subject.test(name.field(), shown)
                    : subject.test(name.attribute(), shown);
            found.append(found.isEmpty() ? ": " : ", ")
                    .append(name)
                    .append(exists ? " is " + shown.text : " is missing");
        }
        return found.toString();
    }

    /** Takes down the value that it is asked about. */
    private static final class Shown extends ValueTest {
        private String text = "";

        private boolean show(Object value) {
            text = value.toString();
            return true;
        }

        @Override
        public boolean text(String value) {
            return show(value.isEmpty() ? "empty" : value);
        }

        @Override
        public boolean integer(long value) {
            return show(value);
        }

        @Override
        public boolean real(double value) {
            return show(value);
        }

        @Override
        public boolean decimal(BigDecimal value) {
            return show(Decimals.text(value));
        }

        @Override
        public boolean bool(boolean value) {
            return show(value);
        }

        @Override
        public boolean time(long epochNanos) {
            return show(Times.instant(epochNanos));
        }

        @Override
        public boolean duration(Duration value) {
            return show(Durations.text(value));
        }

        @Override
        public boolean level(Level value) {
            return show(value.text());
        }

        @Override
        public boolean nothing() {
            return show("null");
        }

        @Override
        public boolean group() {
            return show("a group");
        }
    }
}
