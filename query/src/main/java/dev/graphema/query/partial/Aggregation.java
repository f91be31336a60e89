package dev.graphema.query.partial;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.answer.Differences;
import dev.graphema.query.answer.FailureKinds;
import dev.graphema.query.answer.FieldCatalogue;
import dev.graphema.query.answer.FieldValues;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.answer.TimeMap;
import dev.graphema.query.answer.Timeline;
import dev.graphema.query.row.Projection;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.function.Supplier;

/**
 * How the answer to a question is computed from events in one pass.
 *
 * @param needed the condition that an event must match to be counted, in addition to that of the question
 * @param projection the values that are read of each event
 * @param start creates an empty part
 * @param <A> the type of the answer
 */
public record Aggregation<A extends Answer>(Condition needed, Projection projection, Supplier<Partial<A>> start) {
    private static final Condition FAILED = Condition.parse("failure.fingerprint exists");

    Aggregation(Projection projection, Supplier<Partial<A>> start) {
        this(Condition.EVERYTHING, projection, start);
    }

    /**
     * Finds the newest or oldest events.
     *
     * @param fields the values of these events; all values if empty
     */
    public static Aggregation<FoundEvents> of(Ask.Events ask, List<Name> fields) {
        Projection shown = fields.isEmpty() ? Projection.ALL : Projection.of(fields);
        return new Aggregation<>(Projection.of(List.of()), () -> new FirstEvents(ask.order(), ask.limit(), shown));
    }

    /** Counts combinations of values. */
    public static Aggregation<CountTable> of(Ask.Counts ask) {
        List<Name> looked = new ArrayList<>(new LinkedHashSet<>(ask.by()));
        if (ask.measured() != null && !looked.contains(ask.measured())) {
            looked.add(ask.measured());
        }
        int[] places = ask.by().stream().mapToInt(looked::indexOf).toArray();
        int measured = looked.indexOf(ask.measured());
        return new Aggregation<>(Projection.of(looked), () -> new ValueCounts(ask, places, measured));
    }

    /** Counts by time. */
    public static Aggregation<Timeline> of(Ask.TimeSteps ask) {
        Projection projection = Projection.of(ask.by() == null ? List.of() : List.of(ask.by()));
        return new Aggregation<>(projection, () -> new StepCounts(ask));
    }

    /** Counts by time and source. */
    public static Aggregation<TimeMap> of(Ask.TimeCells ask) {
        return new Aggregation<>(CellCounts.projection(ask), () -> new CellCounts(ask));
    }

    /** Groups failures by kind. */
    public static Aggregation<FailureKinds> of(Ask.Failures ask) {
        return new Aggregation<>(FAILED, FailureCounts.READ, () -> new FailureCounts(ask.parts()));
    }

    /** Collects the names of fields. */
    public static Aggregation<FieldCatalogue> of(Ask.Fields ask) {
        return new Aggregation<>(Projection.ALL, FieldNames::new);
    }

    /** Counts the values of all names. */
    public static Aggregation<FieldValues> of(Ask.Values ask) {
        return new Aggregation<>(Projection.ALL, () -> new AllValues(ask.containing(), ask.shown()));
    }

    /**
     * Counts the values of one side of a comparison.
     *
     * @param isOther whether it is the side that is compared with
     */
    public static Aggregation<Differences> ofSide(boolean isOther) {
        return new Aggregation<>(Projection.ALL, () -> new SideCounts(isOther));
    }

    /**
     * Returns how a question is answered in one pass over the events; null if it needs several.
     */
    @SuppressWarnings("unchecked")
    public static <A extends Answer> Aggregation<A> of(Question<A> question) {
        Object ask = question.ask();
        Aggregation<?> aggregation = null;
        if (ask instanceof Ask.Events events) {
            aggregation = of(events, question.fields());
        } else if (ask instanceof Ask.Counts counts) {
            aggregation = of(counts);
        } else if (ask instanceof Ask.TimeSteps steps) {
            aggregation = of(steps);
        } else if (ask instanceof Ask.TimeCells cells) {
            aggregation = of(cells);
        } else if (ask instanceof Ask.Failures failures) {
            aggregation = of(failures);
        } else if (ask instanceof Ask.Fields fields) {
            aggregation = of(fields);
        } else if (ask instanceof Ask.Values values) {
            aggregation = of(values);
        }
        return (Aggregation<A>) aggregation;
    }
}
