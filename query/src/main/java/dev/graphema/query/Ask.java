package dev.graphema.query;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.event.Attribute;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.answer.Differences;
import dev.graphema.query.answer.EventContext;
import dev.graphema.query.answer.FailureKinds;
import dev.graphema.query.answer.FieldCatalogue;
import dev.graphema.query.answer.FieldValues;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.answer.TimeMap;
import dev.graphema.query.answer.Timeline;
import dev.graphema.query.answer.Trails;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.ZoneId;
import java.util.List;
import java.util.Objects;

/**
 * What is wanted of the events of a question. Immutable.
 *
 * @param <A> the type of the answer
 */
public sealed interface Ask<A extends Answer> {
    /** Which events are found if there are more than wanted. */
    enum Order {
        OLDEST,
        NEWEST,
        /** Those that come first in the source, such as the first lines of the first file, independent of their times. */
        FIRST,
        /** Those that come last in the source. */
        LAST;

        /** Returns whether the events are in the order of the source instead of that of time. */
        public boolean isBySource() {
            return this == FIRST || this == LAST;
        }
    }

    /**
     * The events themselves. Events of the same time are in the order of their source.
     *
     * @param order which ones
     * @param limit the most events, 0 or more; {@link Integer#MAX_VALUE} for all, which are kept in memory
     */
    record Events(Order order, int limit) implements Ask<FoundEvents> {
        public Events {
            Objects.requireNonNull(order, "order");
            atLeast(0, limit, "limit");
        }
    }

    /**
     * Counts of combinations of values, weighted.
     *
     * @param by the names of the values; empty for the count of all events
     * @param measured the name of a value whose statistics each combination has; null for none
     * @param percentiles the percentiles of this value, above 0 and up to 100
     * @param items whether an event counts for each different item of a list; otherwise, the value is the complete list
     */
    record Counts(List<Name> by, Name measured, List<BigDecimal> percentiles, boolean items)
            implements Ask<CountTable> {
        /** The median, and the 95th and 99th percentile. */
        public static final List<BigDecimal> USUAL_PERCENTILES =
                List.of(BigDecimal.valueOf(50), BigDecimal.valueOf(95), BigDecimal.valueOf(99));

        public Counts {
            by = List.copyOf(by);
            percentiles = List.copyOf(percentiles);
            for (BigDecimal each : percentiles) {
                if (each.signum() <= 0 || each.compareTo(BigDecimal.valueOf(100)) > 0) {
                    throw new IllegalArgumentException(
                            "the percentile is " + each.toPlainString() + ": expected one above 0 and up to 100");
                }
            }
        }

        /** Of complete lists. */
        public Counts(List<Name> by, Name measured, List<BigDecimal> percentiles) {
            this(by, measured, percentiles, false);
        }

        /** Of complete lists, with the usual percentiles. */
        public Counts(List<Name> by, Name measured) {
            this(by, measured, USUAL_PERCENTILES);
        }
    }

    /**
     * Counts by time, weighted.
     *
     * @param most the most steps, 1 or more, if their length is not given
     * @param step the length of a step; null for the shortest usual one with at most that number of steps
     * @param zone the time zone in which days begin; null for that of the machine that answers
     * @param by the name of a value by which each step is divided; null for none
     * @param shown the most distinguished values, the most frequent ones
     */
    record TimeSteps(int most, Duration step, ZoneId zone, Name by, int shown) implements Ask<Timeline> {
        public TimeSteps {
            atLeast(1, most, "the number of steps");
            if (step != null && (step.isNegative() || step.isZero())) {
                throw new IllegalArgumentException("the step is " + step + ": expected a positive duration");
            }
            atLeast(0, shown, "the number of shown values");
        }

        /** Steps of a usual length. */
        public static TimeSteps most(int most) {
            return new TimeSteps(most, null, null, null, 0);
        }

        /** Steps of a given length. */
        public static TimeSteps of(Duration step) {
            return new TimeSteps(1, step, null, null, 0);
        }

        /**
         * Divides each step by a value.
         *
         * @param shown the most distinguished values
         */
        public TimeSteps by(Name name, int shown) {
            return new TimeSteps(most, step, zone, name, shown);
        }

        /** Sets the time zone in which days begin. */
        public TimeSteps in(ZoneId zone) {
            return new TimeSteps(most, step, zone, by, shown);
        }
    }

    /**
     * Counts by time and source: all events, warnings, and errors of each source in each step, weighted.
     *
     * @param most the most steps, 1 or more, if their length is not given
     * @param step the length of a step; null for the shortest usual one with at most that number of steps
     * @param zone the time zone in which days begin; null for that of the machine that answers
     * @param by the names whose values make a source; empty for one row of all events
     * @param shown the most rows, 0 or more: those with the most errors and warnings first, and then those with the most events
     */
    record TimeCells(int most, Duration step, ZoneId zone, List<Name> by, int shown) implements Ask<TimeMap> {
        public TimeCells {
            atLeast(1, most, "the number of steps");
            if (step != null && (step.isNegative() || step.isZero())) {
                throw new IllegalArgumentException("the step is " + step + ": expected a positive duration");
            }
            by = List.copyOf(by);
            atLeast(0, shown, "the number of shown rows");
        }
    }

    /**
     * The trace with an id, or all events with a value and the other events of their traces.
     *
     * @param name {@code trace}, or the name of the value
     * @param value the first hexadecimal digits of the trace id, or the value
     */
    record TrailOf(Name name, String value) implements Ask<Trails> {
        private static final Name TRACE = new Name(Attribute.TRACE, null);

        public TrailOf {
            Objects.requireNonNull(name, "name");
            Objects.requireNonNull(value, "value");
        }

        /** The trace whose id begins with these digits. */
        public static TrailOf trace(String digits) {
            return new TrailOf(TRACE, digits);
        }

        /** Returns whether traces are wanted by their id. */
        public boolean isOfTrace() {
            return name.equals(TRACE);
        }
    }

    /**
     * Failures by kind.
     *
     * @param parts the number of parts of the course of each kind, 1 or more
     */
    record Failures(int parts) implements Ask<FailureKinds> {
        /** The usual number of parts. */
        public static final int USUAL_PARTS = 30;

        public Failures {
            atLeast(1, parts, "the number of parts");
        }
    }

    /**
     * The differences to other events of the same source.
     *
     * @param with the condition of the others
     * @param during the window of the others
     */
    record Contrast(Condition with, Window during) implements Ask<Differences> {
        public Contrast {
            Objects.requireNonNull(with, "with");
            Objects.requireNonNull(during, "during");
        }
    }

    /**
     * The events before and after an event, among those of the question.
     *
     * @param event the condition for the event: the first one, in the order of time
     * @param count the most events before it, and the most after it
     */
    record ContextOf(Condition event, int count) implements Ask<EventContext> {
        public ContextOf {
            Objects.requireNonNull(event, "event");
            atLeast(0, count, "the number of events");
        }
    }

    /**
     * The values of all names.
     *
     * @param containing a text that the values contain, ignoring case; null for all values
     * @param shown the most values of each name, the most frequent ones, 0 or more
     */
    record Values(String containing, int shown) implements Ask<FieldValues> {
        /** The usual number of values. */
        public static final int USUAL_SHOWN = 5;

        public Values {
            atLeast(0, shown, "the number of shown values");
        }
    }

    /** The names of all fields, of the first hundred thousand events. */
    record Fields() implements Ask<FieldCatalogue> {}

    private static void atLeast(int least, int given, String what) {
        if (given < least) {
            throw new IllegalArgumentException(what + " is " + given + ": expected " + least + " or more");
        }
    }
}
