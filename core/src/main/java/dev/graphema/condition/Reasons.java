package dev.graphema.condition;

import dev.graphema.event.EventValues;
import dev.graphema.event.Level;
import dev.graphema.event.ValuePredicate;
import dev.graphema.text.Decimals;
import dev.graphema.text.Durations;
import dev.graphema.text.Times;
import java.math.BigDecimal;
import java.time.Duration;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;

/** Which parts of a condition decide about a subject, and the values that they found. */
public final class Reasons {
    private final EventValues subject;

    private Reasons(EventValues subject) {
        this.subject = subject;
    }

    /**
     * The deciding parts, each with its result: {@code level >= warn is false: level is info}. If an {@code and} is false, the
     * first part that is false decides; if an {@code or} is true, the first part that is true.
     */
    public static List<String> of(Condition condition, EventValues subject) {
        return condition.resolved().fold(new Reasons(subject).new Explanation()).reasons();
    }

    /** The result of a part, and what decided it. */
    private record Verdict(boolean holds, List<String> reasons) {}

    private final class Explanation implements Resolved.Fold<Verdict> {
        @Override
        public Verdict all(List<Verdict> parts) {
            return decided(parts, false);
        }

        @Override
        public Verdict any(List<Verdict> parts) {
            return decided(parts, true);
        }

        /** By the first part with the result that decides alone, or else by all of them. */
        private Verdict decided(List<Verdict> parts, boolean decisive) {
            return parts.stream()
                    .filter(part -> part.holds() == decisive)
                    .findFirst()
                    .orElseGet(() -> new Verdict(
                            !decisive,
                            parts.stream()
                                    .flatMap(part -> part.reasons().stream())
                                    .toList()));
        }

        @Override
        public Verdict not(Verdict part) {
            return new Verdict(!part.holds(), part.reasons());
        }

        @Override
        public Verdict present(Name name) {
            return verdict(Evaluation.FOLD.present(name));
        }

        @Override
        public Verdict value(Name name, Accepted accepted) {
            return verdict(Evaluation.FOLD.value(name, accepted));
        }

        @Override
        public Verdict text(TextRule rule) {
            return verdict(Evaluation.FOLD.text(rule));
        }

        private Verdict verdict(Predicate<EventValues> predicate) {
            return new Verdict(predicate.test(subject), List.of());
        }

        @Override
        public Verdict written(Expression expression, Verdict part) {
            return new Verdict(part.holds(), List.of(expression + " is " + part.holds() + found(expression)));
        }
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

    /** Records the value that it tests. */
    private static final class Shown extends ValuePredicate {
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
