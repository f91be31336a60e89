package dev.graphema.query.contract;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.query.Question;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.QueryExecutor;
import java.io.IOException;
import java.util.List;
import java.util.stream.Stream;

/** Creates sources with given events. */
public interface SourceUnderTest {
    /** Returns a new source with these events, in this order. It is asked once. */
    EventSource source(List<Event> events) throws IOException;

    /** Asks a new source with these events. */
    default <A extends Answer> A answer(Question<A> question, Draft... events) throws IOException {
        return QueryExecutor.answer(
                question, source(Stream.of(events).map(Draft::finish).toList()));
    }
}
