package dev.graphema.collector.alert;

import dev.graphema.condition.Name;
import java.time.Duration;
import java.util.Objects;

/** What must be so for an alert to fire. */
public sealed interface AlertTest {
    /** More events than a number in the window. */
    record MoreThan(long count) implements AlertTest {
        @Override
        public String toString() {
            return "more than " + count;
        }
    }

    /** Fewer events than a number in the window. A group is known if it had events in the last day. */
    record FewerThan(long count) implements AlertTest {
        @Override
        public String toString() {
            return "fewer than " + count;
        }
    }

    /**
     * More events than a multiple of the usual number, which is the median of the same window on the same weekday of the last four weeks,
     * or of the last seven days if there are fewer weeks; and more than three deviations (scaled median absolute deviation) above it.
     *
     * @param factor above 1
     * @param atLeast fewer events never fire
     */
    record TimesUsual(double factor, long atLeast) implements AlertTest {
        @Override
        public String toString() {
            return factor + " times the usual, at least " + atLeast;
        }
    }

    /**
     * A value of a field, such as the kind of a failure, that did not occur before.
     *
     * @param of the field
     * @param within how far back its other values are known
     */
    record NewValue(Name of, Duration within) implements AlertTest {
        public NewValue {
            Objects.requireNonNull(of, "of");
            Objects.requireNonNull(within, "within");
        }

        @Override
        public String toString() {
            return "a new value of " + of;
        }
    }

    /** No events in the window, of a group that had some in the last day. */
    record Silence() implements AlertTest {
        @Override
        public String toString() {
            return "silence";
        }
    }
}
