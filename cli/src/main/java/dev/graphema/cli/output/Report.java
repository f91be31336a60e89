package dev.graphema.cli.output;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.samskivert.mustache.Mustache;
import dev.graphema.collector.page.Drawings;
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
import dev.graphema.query.json.DrawingJson;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.text.Durations;
import dev.graphema.text.Times;
import java.io.IOException;
import java.io.InputStream;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Base64;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * An HTML page about the events that match a condition: when they occurred, their values, failures, one request, and
 * the newest events. It is one file that needs no network. Its only script, which its policy allows by its hash (Content Security
 * Policy Level 3), is the drawing code of the page; where no scripts run, the drawings are texts.
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
    private static final int WIDTH = 140;
    private static final JsonFactory JSON = new JsonFactory();
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
        String script = Drawings.script() + resource("report.js");
        values.put("style", Drawings.style() + resource("report.css"));
        values.put("script", script);
        values.put("hash", hash(script));
        values.put(
                "zone",
                console.zone().equals(ZoneOffset.UTC) ? "UTC" : console.zone().toString());
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

    /** Returns the hash of a script in the form of a content security policy. */
    private static String hash(String script) {
        try {
            byte[] hash = MessageDigest.getInstance("SHA-256").digest(script.getBytes(StandardCharsets.UTF_8));
            return "sha256-" + Base64.getEncoder().encodeToString(hash);
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("every JDK has SHA-256", e);
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
        FailureKinds failures = QueryExecutor.answer(selection.ask(new Ask.Failures(COURSE_PARTS)), logs);
        values.put("failures", failures(failures));
        values.put("trail", trail(failures, newest));
        values.put("events", newest.events().stream().map(this::event).toList());
        return values;
    }

    /** Returns null, and so no section, if there are no events. */
    private Map<String, Object> map() throws IOException {
        TimeMap map = QueryExecutor.answer(
                selection.ask(new Ask.TimeCells(STEPS, null, console.zone(), SOURCE, SOURCES)), logs);
        FoundEvents marks = QueryExecutor.answer(
                selection.where(Condition.parse(MapText.MARKS)).newest(MARKS), logs);
        if (map.begins().isEmpty()) {
            return null;
        }
        return Map.of(
                "step", Durations.text(map.step()),
                "drawing", inPage("{\"answer\":" + DrawingJson.of(map) + ",\"marks\":" + marks(marks.events()) + "}"),
                "text",
                        MapText.toBuffer(map, marks.events(), console.plain(WIDTH))
                                .toString());
    }

    private static String marks(List<Event> marks) {
        StringWriter text = new StringWriter();
        try (JsonGenerator json = JSON.createGenerator(text)) {
            json.writeStartArray();
            for (Event mark : marks) {
                json.writeStartObject();
                json.writeStringField("time", Times.instant(mark.epochNanos()).toString());
                json.writeStringField("text", MapText.text(mark));
                json.writeEndObject();
            }
            json.writeEndArray();
        } catch (IOException e) {
            throw new IllegalStateException("a text cannot be full", e);
        }
        return text.toString();
    }

    /** Returns JSON in which nothing can end the element that contains it, and no character is hidden. */
    private static String inPage(String json) {
        StringBuilder to = new StringBuilder(json.length() + 16);
        json.chars().forEach(c -> {
            if (c == '<' || c == '>' || c == '&' || c > '~') {
                to.append(String.format("\\u%04x", c));
            } else {
                to.append((char) c);
            }
        });
        return to.toString();
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

    private Map<String, Object> failures(FailureKinds failures) {
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
        values.put("course", kind.course().toString());
        return values;
    }

    /** Returns a trace of the most frequent kind of failure, or else the newest trace; null if there is none. */
    private Map<String, Object> trail(FailureKinds failures, FoundEvents newest) throws IOException {
        List<Event> newestFirst = new ArrayList<>(newest.events());
        Collections.reverse(newestFirst);
        Optional<Event> chosen = Stream.concat(
                        failures.kinds().stream().map(FailureKinds.Kind::example), newestFirst.stream())
                .filter(event -> event.trace() != null)
                .findFirst();
        if (chosen.isEmpty()) {
            return null;
        }
        String id = chosen.get().trace().toString();
        Trails found =
                QueryExecutor.answer(selection.where(Condition.EVERYTHING).trail(id), logs);
        if (found.trails().isEmpty()) {
            return null;
        }
        Trail trail = found.trails().get(0);
        Map<String, Object> values = new HashMap<>();
        values.put("name", trail.name());
        values.put("services", String.join(", ", trail.services()));
        values.put("drawing", inPage(DrawingJson.of(trail)));
        values.put("text", new TrailText(trail, console.plain(WIDTH)).toBuffer().toString());
        values.put(
                "failure",
                trail.firstFailure()
                        .map(event -> FailureText.of(event.failure()))
                        .orElse(null));
        return values;
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
