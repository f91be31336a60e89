package dev.graphema.query.partial;

import dev.graphema.query.answer.Coverage;
import dev.graphema.query.answer.Coverage.Place;
import dev.graphema.query.answer.Coverage.Problem;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/** Writes and reads what was read for a part. */
final class CoverageState {
    private CoverageState() {}

    static void write(Coverage coverage, StateWriter to) throws IOException {
        to.begin().numbers(coverage.files(), coverage.events(), coverage.bytes(), coverage.totalBytes());
        problems(coverage.unreadable(), to);
        problems(coverage.damaged(), to);
        places(coverage.failures(), to);
        to.texts(coverage.truncated());
        to.flag(coverage.isEstimate()).flag(coverage.isStopped());
        to.number(coverage.elapsed().toNanos()).end();
    }

    private static void problems(List<Problem> problems, StateWriter to) throws IOException {
        to.begin();
        for (Problem problem : problems) {
            to.begin().text(problem.reason()).number(problem.count());
            places(problem.places(), to);
            to.end();
        }
        to.end();
    }

    private static void places(List<Place> places, StateWriter to) throws IOException {
        to.begin();
        for (Place place : places) {
            to.begin()
                    .text(place.source())
                    .number(place.line())
                    .text(place.reason())
                    .end();
        }
        to.end();
    }

    static Coverage read(StateReader from) throws IOException {
        from.begin();
        from.begin();
        long files = from.number();
        long events = from.number();
        long bytes = from.number();
        long totalBytes = from.number();
        from.end();
        List<Problem> unreadable = problems(from);
        List<Problem> damaged = problems(from);
        List<Place> failures = places(from);
        List<String> truncated = from.texts();
        boolean isEstimate = from.flag();
        boolean isStopped = from.flag();
        Duration elapsed = Duration.ofNanos(from.number());
        from.end();
        return new Coverage(
                files,
                events,
                bytes,
                totalBytes,
                unreadable,
                damaged,
                failures,
                truncated,
                isEstimate,
                isStopped,
                elapsed);
    }

    private static List<Problem> problems(StateReader from) throws IOException {
        List<Problem> problems = new ArrayList<>();
        from.begin();
        while (from.next()) {
            problems.add(new Problem(from.text(), from.number(), places(from)));
            from.end();
        }
        return problems;
    }

    private static List<Place> places(StateReader from) throws IOException {
        List<Place> places = new ArrayList<>();
        from.begin();
        while (from.next()) {
            places.add(new Place(from.text(), from.number(), from.text()));
            from.end();
        }
        return places;
    }
}
