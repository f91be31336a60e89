package dev.graphema.query.source;

import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.query.Ask;
import dev.graphema.query.EventSelection;
import dev.graphema.query.Question;
import dev.graphema.query.Window;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.partial.Aggregation;
import dev.graphema.query.partial.Partial;
import dev.graphema.query.partial.PartialTransfer;
import java.io.IOException;
import java.util.List;
import java.util.function.Predicate;
import java.util.stream.Stream;

/**
 * Answers questions over sources, with one thread per processor. What a source does not do is done here: a
 * source that only returns rows can be asked every question.
 *
 * <pre>{@code
 * FoundEvents failed = QueryExecutor.answer(Question.where("level >= error").newest(50), source);
 * }</pre>
 */
public final class QueryExecutor {
    private QueryExecutor() {}

    /**
     * Answers a question.
     *
     * @throws IOException if the source cannot be read at all; what can be read only in part is stated in the answer
     */
    public static <A extends Answer> A answer(Question<A> question, EventSource source) throws IOException {
        return answer(question, source, Control.NONE);
    }

    /**
     * As above.
     *
     * @param control watches the progress, and can stop the reading
     */
    public static <A extends Answer> A answer(Question<A> question, EventSource source, Control control)
            throws IOException {
        Aggregation<A> aggregation = Aggregation.of(question);
        CoverageBuilder coverage = new CoverageBuilder(control);
        if (aggregation != null) {
            return answer(fill(question.where(), question.during(), aggregation, source, coverage), coverage);
        }
        return new SeveralPasses(question, source, coverage).answer(question.ask());
    }

    /**
     * Describes how a question would be answered, without answering it: what the source decides, what is decided for each event, and what
     * the source would ask other programs.
     *
     * @return one or more lines
     * @throws IOException if the source cannot be read at all
     */
    public static String explain(Question<?> question, EventSource source) throws IOException {
        Aggregation<?> asked = Aggregation.of(question);
        Aggregation<?> aggregation =
                asked == null ? Aggregation.of(new Ask.Events(Ask.Order.OLDEST, Integer.MAX_VALUE), List.of()) : asked;
        Condition wanted = question.where().and(aggregation.needed());
        Plan plan = source.plan(
                new Scan(wanted, question.during(), aggregation.projection(), false),
                new CoverageBuilder(Control.NONE));
        Partial<?> partial = aggregation.start().get();
        StringBuilder text = new StringBuilder(asked == null ? "read several times, first so: " : "");
        text.append(plan.explain());
        plan.parts().stream()
                .map(part -> part.explain(partial))
                .filter(each -> !each.isEmpty())
                .forEach(each -> text.append('\n').append(each));
        return text.toString();
    }

    /** Reads the events in a window that match a condition into parts, and merges these. */
    static <A extends Answer> Partial<A> fill(
            Condition where, Window during, Aggregation<A> aggregation, EventSource source, CoverageBuilder coverage)
            throws IOException {
        Condition wanted = where.and(aggregation.needed());
        Plan plan = source.plan(new Scan(wanted, during, aggregation.projection(), false), coverage);
        return new ParallelScan<>(plan, during, aggregation.start(), coverage).run();
    }

    /**
     * Fills a part for another process, which merges it with others.
     *
     * @param coverage receives what is read
     * @throws IOException if the source cannot be read at all
     * @throws IllegalArgumentException if the request is not for one pass over the events
     */
    public static Partial<?> part(PartialTransfer.Request request, EventSource source, CoverageBuilder coverage)
            throws IOException {
        Question<?> question = request.question();
        return fill(question.where(), question.during(), request.aggregation(), source, coverage);
    }

    static <A extends Answer> A answer(Partial<A> partial, CoverageBuilder coverage) {
        if (partial.isEstimate()) {
            coverage.estimated();
        }
        if (partial.truncated() != null) {
            coverage.truncated(partial.truncated());
        }
        return partial.answer(coverage::coverage);
    }

    /**
     * Passes on the selected events, oldest first, until there are no more or the function returns false. Memory does not
     * grow with the number of events if the source has an {@linkplain EventSource.Capability#ORDER order}.
     *
     * @return what was read
     * @throws IOException if the source cannot be read at all
     */
    public static Coverage read(EventSelection selection, EventSource source, Control control, Predicate<Event> taker)
            throws IOException {
        CoverageBuilder coverage = new CoverageBuilder(control);
        try (OrderedRead events = new OrderedRead(selection, source, coverage)) {
            Event event = events.next();
            while (event != null && taker.test(event)) {
                event = events.next();
            }
            return coverage.coverage();
        }
    }

    /**
     * Returns the selected events, oldest first, as a stream that must be closed. Errors while it is read are thrown as
     * {@link java.io.UncheckedIOException}.
     *
     * @throws IOException if the source cannot be read at all
     */
    public static Stream<Event> stream(EventSelection selection, EventSource source) throws IOException {
        return new OrderedRead(selection, source, new CoverageBuilder(Control.NONE)).stream();
    }
}
