package dev.graphema.query;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.query.answer.Answer;
import java.util.List;
import java.util.Objects;

/**
 * What somebody wants to know about the events of a source. A question does not know where the events are: the same one
 * can be asked of files, a stream, memory, or a server. Immutable.
 *
 * <pre>{@code
 * Question<FoundEvents> failed = Question.where("level >= error and service = deck").newest(50);
 * Question<CountTable> slow = Question.where("elapsed > 1s").counts("service", "instance");
 * }</pre>
 *
 * @param where the condition for events
 * @param during the window for events
 * @param fields the names of the values that found events have; all values if empty
 * @param ask what is wanted of these events
 * @param <A> the type of the answer
 */
public record Question<A extends Answer>(Condition where, Window during, List<Name> fields, Ask<A> ask) {
    public Question {
        Objects.requireNonNull(where, "where");
        Objects.requireNonNull(during, "during");
        fields = List.copyOf(fields);
        Objects.requireNonNull(ask, "ask");
    }

    /** Begins a question about all events. */
    public static EventSelection all() {
        return EventSelection.ALL;
    }

    /**
     * Begins a question about the events that match a condition. Local times are in the time zone of the system.
     *
     * @throws dev.graphema.condition.ConditionException if the text is not a condition
     */
    public static EventSelection where(String condition) {
        return where(Condition.parse(condition));
    }

    /** Begins a question about the events that match a condition. */
    public static EventSelection where(Condition condition) {
        return EventSelection.ALL.where(condition);
    }

    /** Returns the events that the question is about, to ask something else of them. */
    public EventSelection selection() {
        return new EventSelection(where, during, fields);
    }
}
