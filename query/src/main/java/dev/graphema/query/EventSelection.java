package dev.graphema.query;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.answer.Differences;
import dev.graphema.query.answer.EventContext;
import dev.graphema.query.answer.FailureKinds;
import dev.graphema.query.answer.FieldCatalogue;
import dev.graphema.query.answer.FieldValues;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.answer.Timeline;
import dev.graphema.query.answer.Trails;
import java.time.Duration;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;

/**
 * The events that a question is about. Immutable: each method returns another selection, or a question about this one.
 *
 * @param where the condition for events
 * @param during the window for events
 * @param fields the names of the values that found events have; all values if empty
 */
public record EventSelection(Condition where, Window during, List<Name> fields) {
    /** All events. */
    static final EventSelection ALL = new EventSelection(Condition.EVERYTHING, Window.ALWAYS, List.of());

    public EventSelection {
        Objects.requireNonNull(where, "where");
        Objects.requireNonNull(during, "during");
        fields = List.copyOf(fields);
    }

    /** Replaces the condition. */
    public EventSelection where(Condition condition) {
        return new EventSelection(condition, during, fields);
    }

    /** Replaces the window. */
    public EventSelection during(Window window) {
        return new EventSelection(where, window, fields);
    }

    /** Restricts found events to the values of these names, and time, level and weight. */
    public EventSelection fields(String... names) {
        return new EventSelection(where, during, names(names));
    }

    /**
     * Asks for the newest events.
     *
     * @param limit the most events, 0 or more
     */
    public Question<FoundEvents> newest(int limit) {
        return ask(new Ask.Events(Ask.Order.NEWEST, limit));
    }

    /**
     * Asks for the oldest events.
     *
     * @param limit the most events, 0 or more
     */
    public Question<FoundEvents> oldest(int limit) {
        return ask(new Ask.Events(Ask.Order.OLDEST, limit));
    }

    /** Asks for the events that come first in the source, independent of their times. */
    public Question<FoundEvents> first(int limit) {
        return ask(new Ask.Events(Ask.Order.FIRST, limit));
    }

    /** Asks for the events that come last in the source, independent of their times. */
    public Question<FoundEvents> last(int limit) {
        return ask(new Ask.Events(Ask.Order.LAST, limit));
    }

    /** Asks for the counts of all combinations of values. */
    public Question<CountTable> counts(String... names) {
        return ask(new Ask.Counts(names(names), null));
    }

    /** Asks for counts by time, in at most {@code most} steps of a usual length. */
    public Question<Timeline> timeline(int most) {
        return ask(Ask.TimeSteps.most(most));
    }

    /** Asks for counts by time, in steps of a given length. */
    public Question<Timeline> timeline(Duration step) {
        return ask(Ask.TimeSteps.of(step));
    }

    /** Asks for the traces whose ids begin with these hexadecimal digits. */
    public Question<Trails> trail(String digits) {
        return ask(Ask.TrailOf.trace(digits));
    }

    /** Asks for all events with a value, and all other events of their traces. */
    public Question<Trails> trail(String name, String value) {
        return ask(new Ask.TrailOf(Name.of(name), value));
    }

    /** Asks for failures by kind. */
    public Question<FailureKinds> failures() {
        return ask(new Ask.Failures(Ask.Failures.USUAL_PARTS));
    }

    /** Asks how these events differ from those of another selection. */
    public Question<Differences> contrastWith(EventSelection other) {
        return ask(new Ask.Contrast(other.where, other.during));
    }

    /** Asks for the events before and after the first event that matches the condition. */
    public Question<EventContext> contextOf(String condition, int count) {
        return ask(new Ask.ContextOf(Condition.parse(condition), count));
    }

    /** Asks for the names of all fields. */
    public Question<FieldCatalogue> catalogue() {
        return ask(new Ask.Fields());
    }

    /** Asks for the values of all names. */
    public Question<FieldValues> values() {
        return ask(new Ask.Values(null, Ask.Values.USUAL_SHOWN));
    }

    /** Asks something of these events. */
    public <A extends Answer> Question<A> ask(Ask<A> ask) {
        return new Question<>(where, during, fields, ask);
    }

    private static List<Name> names(String... names) {
        return Stream.of(names).map(Name::of).toList();
    }
}
