package dev.graphema.query.source;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Expression;
import dev.graphema.condition.Literal;
import dev.graphema.condition.Name;
import dev.graphema.condition.Operator;
import dev.graphema.event.Attribute;
import dev.graphema.event.Event;
import dev.graphema.query.Ask;
import dev.graphema.query.EventSelection;
import dev.graphema.query.Question;
import dev.graphema.query.Window;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.answer.Differences;
import dev.graphema.query.answer.EventContext;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.answer.Trail;
import dev.graphema.query.answer.Trails;
import dev.graphema.query.partial.Aggregation;
import dev.graphema.query.partial.FirstEvents;
import dev.graphema.query.partial.Neighbours;
import dev.graphema.query.partial.Partial;
import dev.graphema.query.partial.PlacedEvent;
import dev.graphema.trace.TraceId;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;

/** Answers questions that need several passes over the events. */
final class SeveralPasses {
    /** The most traces of which events are collected. */
    private static final int MOST_TRACES = 1_000;

    /** The most events that are kept of a source that can be read only once. */
    private static final int MOST_KEPT = 1_000_000;

    private static final Name TRACE = new Name(Attribute.TRACE, null);

    private final EventSelection selection;
    private final EventSource source;
    private final boolean isKept;

    /** What was read in the last pass, or when the events were kept. */
    private CoverageBuilder coverage;

    SeveralPasses(Question<?> question, EventSource source, CoverageBuilder coverage) throws IOException {
        this.selection = question.selection();
        this.coverage = coverage;
        this.isKept = !source.capabilities().contains(EventSource.Capability.REPEATED_READING);
        this.source = isKept ? kept(needed(question), source) : source.snapshot();
    }

    @SuppressWarnings("unchecked")
    <A extends Answer> A answer(Ask<A> ask) throws IOException {
        Object wanted = ask;
        if (wanted instanceof Ask.TrailOf trail) {
            return (A) trail(trail);
        }
        if (wanted instanceof Ask.ContextOf context) {
            return (A) context(context);
        }
        return (A) contrast((Ask.Contrast) wanted);
    }

    /** Returns all events that the question is about. */
    private static EventSelection needed(Question<?> question) {
        Object ask = question.ask();
        if (!(ask instanceof Ask.Contrast contrast)) {
            return question.selection();
        }
        return Question.where(question.where().or(contrast.with()))
                .during(new Window(
                        Math.min(question.during().from(), contrast.during().from()),
                        Math.max(question.during().to(), contrast.during().to())));
    }

    /** Keeps the newest events of a source that can be read only once. */
    private EventSource kept(EventSelection needed, EventSource source) throws IOException {
        Partial<FoundEvents> partial = QueryExecutor.fill(
                needed.where(),
                needed.during(),
                Aggregation.of(new Ask.Events(Ask.Order.NEWEST, MOST_KEPT), List.of()),
                source,
                coverage);
        FirstEvents found = (FirstEvents) partial;
        if (found.matching() > MOST_KEPT) {
            coverage.truncated("of a stream, the newest " + MOST_KEPT + " events are examined");
        }
        return new MemorySource(found.read());
    }

    private <A extends Answer> Partial<A> fill(Condition where, Window during, Aggregation<A> aggregation)
            throws IOException {
        CoverageBuilder pass = coverage.again();
        if (!isKept) {
            coverage = pass;
        }
        return QueryExecutor.fill(where, during, aggregation, source, pass);
    }

    private FirstEvents events(Condition where, Ask.Order order, int limit) throws IOException {
        return (FirstEvents) fill(where, selection.during(), Aggregation.of(new Ask.Events(order, limit), List.of()));
    }

    private Trails trail(Ask.TrailOf ask) throws IOException {
        if (ask.isOfTrace()) {
            Condition begins = Condition.parse("trace starts " + Literal.quoted(ask.value()));
            return traces(events(selection.where().and(begins), Ask.Order.NEWEST, Integer.MAX_VALUE)
                    .read());
        }
        Condition has = ask.name().attribute() == Attribute.LEVEL
                ? Condition.parse(ask.name() + " = " + Literal.quoted(ask.value())) // which knows the levels
                : Condition.of(new Expression.Comparison(ask.name(), Operator.EQUAL, Literal.of(ask.value())));
        CountTable traces = QueryExecutor.answer(
                fill(
                        selection.where().and(has),
                        selection.during(),
                        Aggregation.of(new Ask.Counts(List.of(TRACE), null))),
                coverage);
        List<Literal> ids = traces.rows().stream()
                .map(row -> row.values().get(0))
                .filter(Objects::nonNull)
                .limit(MOST_TRACES)
                .map(Literal::of)
                .toList();
        Condition wanted = ids.isEmpty() ? has : has.or(Condition.of(new Expression.OneOf(TRACE, ids)));
        List<Event> events = events(selection.where().and(wanted), Ask.Order.NEWEST, Integer.MAX_VALUE)
                .read();
        if (ids.size() == MOST_TRACES) {
            coverage.truncated("the value is in many traces; the events of " + MOST_TRACES + " are shown");
        }
        return new Trails(
                events.isEmpty() ? List.of() : List.of(new Trail(ask.name() + " = " + ask.value(), events)),
                coverage.coverage());
    }

    private Trails traces(List<Event> events) {
        Map<TraceId, List<Event>> byTrace = new LinkedHashMap<>();
        events.forEach(event -> byTrace.computeIfAbsent(event.trace(), missing -> new ArrayList<>())
                .add(event));
        List<Trail> trails = new ArrayList<>();
        byTrace.forEach((id, each) -> trails.add(new Trail(id.toString(), each)));
        return new Trails(trails, coverage.coverage());
    }

    private EventContext context(Ask.ContextOf ask) throws IOException {
        List<PlacedEvent> found =
                events(selection.where().and(ask.event()), Ask.Order.OLDEST, 1).placed();
        if (found.isEmpty()) {
            return new EventContext(List.of(), null, List.of(), coverage.coverage());
        }
        Partial<EventContext> neighbours =
                fill(selection.where(), selection.during(), Neighbours.of(found.get(0), ask.count()));
        return QueryExecutor.answer(neighbours, coverage);
    }

    private Differences contrast(Ask.Contrast ask) throws IOException {
        Partial<Differences> others = fill(ask.with(), ask.during(), Aggregation.ofSide(true));
        Partial<Differences> events = fill(selection.where(), selection.during(), Aggregation.ofSide(false));
        return QueryExecutor.answer(events.merge(others), coverage);
    }
}
