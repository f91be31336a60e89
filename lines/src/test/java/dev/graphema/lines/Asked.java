package dev.graphema.lines;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.event.Event;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.Ask;
import dev.graphema.query.EventSelection;
import dev.graphema.query.Question;
import dev.graphema.query.Window;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.QueryExecutor;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.List;
import java.util.function.Predicate;
import java.util.stream.Stream;

/** A source, the selected events, and the control, to ask about them briefly in tests. */
record Asked(EventSource source, EventSelection selection, Control control) {
    static Asked at(Path... paths) throws IOException {
        return new Asked(LineFiles.at(List.of(paths)), Question.all(), Control.NONE);
    }

    static Asked from(InputStream stream) {
        return from(stream, LineShape.USUAL);
    }

    static Asked from(InputStream stream, LineShape shape) {
        return new Asked(new LineStream(stream, shape), Question.all(), Control.NONE);
    }

    Asked where(String condition) {
        return new Asked(source, selection.where(Condition.parse(condition)), control);
    }

    Asked during(Window window) {
        return new Asked(source, selection.during(window), control);
    }

    Asked watched(Control control) {
        return new Asked(source, selection, control);
    }

    Coverage read(Predicate<Event> taker) throws IOException {
        return QueryExecutor.read(selection, source, control, taker);
    }

    Stream<Event> stream() throws IOException {
        return QueryExecutor.stream(selection, source);
    }

    FoundEvents newest(int limit) throws IOException {
        return answer(new Ask.Events(Ask.Order.NEWEST, limit));
    }

    CountTable counts(String... names) throws IOException {
        return QueryExecutor.answer(selection.counts(names), source, control);
    }

    CountTable measured(String by, String measured) throws IOException {
        return answer(new Ask.Counts(List.of(Name.of(by)), Name.of(measured)));
    }

    <A extends Answer> A answer(Ask<A> ask) throws IOException {
        return QueryExecutor.answer(selection.ask(ask), source, control);
    }
}
