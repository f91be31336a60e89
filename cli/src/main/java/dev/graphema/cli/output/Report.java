package dev.graphema.cli.output;

import com.samskivert.mustache.Mustache;
import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.format.ClockText;
import dev.graphema.format.FailureText;
import dev.graphema.format.FieldText;
import dev.graphema.query.Ask;
import dev.graphema.query.EventSelection;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.answer.FailureKinds;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.answer.TimeMap;
import dev.graphema.query.answer.Trail;
import dev.graphema.query.answer.Trails;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.text.Durations;
import dev.graphema.text.Times;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;

/**
 * An HTML page about the events that match a condition: when they occurred, their values, failures, one request, and
 * the newest events. It is one file without scripts that needs no network.
 */
public final class Report {
    private static final int STEPS = 120;
    private static final int SOURCES = 24;
    private static final int MARKS = 20;
    private static final List<Name> SOURCE = List.of(Name.of("service"), Name.of("instance"));
    private static final int EVENTS = 50;
    private static final int ROWS = 8;
    private static final int KINDS = 20;
    private static final int COURSE_PARTS = 40;
    private static final int INDENT = 18;
    private static final List<String> COUNTED = List.of("service", "instance", "level", "message");

    private final EventSource logs;
    private final EventSelection selection;
    private final Console console;
    private final ClockText clock;

    private Report(EventSource logs, EventSelection selection, Console console) {
        this.logs = logs;
        this.selection = selection;
        this.console = console;
        this.clock = ClockText.dateAndTime(console.zone());
    }

    /**
     * Writes the page.
     *
     * @param wanted the condition as the user wrote it
     */
    public static void write(Path file, EventSource logs, EventSelection selection, Condition wanted, Console console)
            throws IOException {
        Map<String, Object> values = new Report(logs, selection, console).values();
        values.put("title", wanted.isEverything() ? "All events" : wanted.toString());
        values.put("style", resource("report.css"));
        String page = Mustache.compiler()
                .withEscaper(Html::escaped)
                .compile(resource("report.mustache"))
                .execute(values);
        Files.writeString(file, page);
    }

    private static String resource(String name) throws IOException {
        try (InputStream stream = Report.class.getResourceAsStream(name)) {
            return new String(stream.readAllBytes(), StandardCharsets.UTF_8);
        }
    }

    private Map<String, Object> values() throws IOException {
        FoundEvents newest = QueryExecutor.answer(selection.newest(EVENTS), logs);
        Map<String, Object> values = new HashMap<>();
        values.put(
                "summary",
                Counted.of(newest.matching(), "matching event") + "; " + Counted.read(newest.coverage()) + ". Made "
                        + clock.text(Times.now()) + ", times of " + console.zone() + ".");
        values.put("map", map());
        values.put("counts", counts());
        values.put("failures", failures());
        values.put("trail", trail(newest));
        values.put("events", newest.events().stream().map(this::event).toList());
        return values;
    }

    /** Returns null, and so no section, if there are no events. */
    private Map<String, Object> map() throws IOException {
        TimeMap map = QueryExecutor.answer(
                selection.ask(new Ask.TimeCells(STEPS, null, console.zone(), SOURCE, SOURCES)), logs);
        FoundEvents marks = QueryExecutor.answer(
                selection.where(Condition.parse(MapText.MARKS)).newest(MARKS), logs);
        return map.begins().isEmpty() ? null : MapChart.of(map, marks.events(), console.zone());
    }

    private List<Map<String, Object>> counts() throws IOException {
        List<Map<String, Object>> tables = new ArrayList<>();
        for (String name : COUNTED) {
            CountTable counts = QueryExecutor.answer(selection.counts(name), logs);
            tables.add(Map.of(
                    "name",
                    name,
                    "rows",
                    counts.rows().stream()
                            .limit(ROWS)
                            .map(row -> count(row, counts.all().count()))
                            .toList()));
        }
        return tables;
    }

    private static Map<String, Object> count(CountTable.Row row, long all) {
        double share = 100.0 * row.events().count() / Math.max(1, all);
        String value = row.values().get(0);
        return Map.of(
                "value", value == null ? "(missing)" : value,
                "count", Counted.number(row.events().count()),
                "width", Math.round(Math.max(1, share)),
                "share", Math.round(share));
    }

    private Map<String, Object> failures() throws IOException {
        FailureKinds failures = QueryExecutor.answer(selection.ask(new Ask.Failures(COURSE_PARTS)), logs);
        return failures.kinds().isEmpty()
                ? null
                : Map.of(
                        "kinds",
                        failures.kinds().stream().limit(KINDS).map(this::kind).toList());
    }

    private Map<String, Object> kind(FailureKinds.Kind kind) {
        Failure failure = kind.example().failure();
        Map<String, Object> values = new HashMap<>();
        values.put("count", Counted.number(kind.count()));
        values.put("type", failure.type());
        values.put("message", Objects.requireNonNullElse(failure.message(), ""));
        values.put(
                "at",
                failure.frames().isEmpty() ? null : failure.frames().get(0).toString());
        values.put("where", String.join(", ", kind.where().stream().sorted().toList()));
        values.put("first", clock.text(kind.first()));
        values.put("last", clock.text(kind.last()));
        values.put("course", course(kind.course()));
        return values;
    }

    private static List<Map<String, Object>> course(List<Long> course) {
        long most = course.stream().mapToLong(Long::longValue).max().orElse(1);
        List<Map<String, Object>> bars = new ArrayList<>();
        for (int i = 0; i < course.size(); i++) {
            double high = 22.0 * course.get(i) / Math.max(1, most);
            bars.add(Map.of("x", i * 4, "y", MapChart.tenths(23 - high), "height", MapChart.tenths(high)));
        }
        return bars;
    }

    /** Returns the newest trace with a failure, or else the newest of all; null if there is none. */
    private Map<String, Object> trail(FoundEvents newest) throws IOException {
        List<Event> traced =
                newest.events().stream().filter(event -> event.trace() != null).toList();
        List<Event> failed =
                traced.stream().filter(event -> event.failure() != null).toList();
        List<Event> chosen = failed.isEmpty() ? traced : failed;
        if (chosen.isEmpty()) {
            return null;
        }
        String id = chosen.get(chosen.size() - 1).trace().toString();
        Trails found =
                QueryExecutor.answer(selection.where(Condition.EVERYTHING).trail(id), logs);
        if (found.trails().isEmpty()) {
            return null;
        }
        Trail trail = found.trails().get(0);
        List<Map<String, Object>> spans = new ArrayList<>();
        spans(trail.roots(), 0, trail, trail.clocksAhead(), spans);
        Map<String, Object> values = new HashMap<>();
        values.put("name", trail.name());
        values.put("services", String.join(", ", trail.services()));
        values.put("spans", spans);
        values.put(
                "failure",
                trail.firstFailure()
                        .map(event -> FailureText.of(event.failure()))
                        .orElse(null));
        return values;
    }

    private static void spans(
            List<Trail.Span> spans, int depth, Trail trail, Map<String, Duration> ahead, List<Map<String, Object>> to) {
        long length = Math.max(1, trail.end() - trail.start());
        for (Trail.Span span : spans) {
            long from = span.start()
                    - ahead.getOrDefault(span.where(), Duration.ZERO).toNanos()
                    - trail.start();
            double left = Math.max(0, Math.min(99, 100.0 * from / length));
            double wide = span.elapsed() == null
                    ? 1
                    : Math.max(0.5, 100.0 * span.elapsed().toNanos() / length);
            to.add(Map.of(
                    "indent",
                    depth * INDENT,
                    "style",
                    span.failed() ? "bad" : "",
                    "label",
                    TrailText.label(span),
                    "where",
                    span.where(),
                    "took",
                    span.elapsed() == null ? "not ended" : Durations.text(span.elapsed()),
                    "bar",
                    span.failed() ? "bad" : "s0",
                    "left",
                    MapChart.tenths(left),
                    "width",
                    MapChart.tenths(Math.min(wide, 100 - left))));
            spans(span.children(), depth + 1, trail, ahead, to);
        }
    }

    private Map<String, Object> event(Event event) {
        return Map.of(
                "time", clock.text(event.epochNanos()),
                "level", event.level() == null ? "" : event.level().text(),
                "where", event.instance() != null ? event.instance() : String.valueOf(event.service()),
                "message", event.message() == null ? "" : event.message(),
                "fields",
                        FieldText.of(event.fields()).stream()
                                .map(pair -> pair.name() + "=" + pair.value())
                                .collect(Collectors.joining(" ")));
    }
}
