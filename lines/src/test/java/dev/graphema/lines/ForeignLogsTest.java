package dev.graphema.lines;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.source.Following;
import dev.graphema.text.Times;
import java.io.IOException;
import java.io.InputStream;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/** What real programs wrote, recorded by scripts/samples: read unchanged, with the right time, level and message. */
class ForeignLogsTest {
    private static final Path SAMPLES = Path.of("src", "test", "resources", "foreign");
    private static final ObjectMapper JSON = new ObjectMapper();

    @Test
    void aDatabaseServersJsonLog() throws IOException {
        Map<String, Level> levels = Map.of("LOG", Level.INFO, "ERROR", Level.ERROR, "FATAL", Level.FATAL);
        List<Event> events = events("postgresql.jsonl");
        List<String> lines = lines("postgresql.jsonl");
        for (int i = 0; i < lines.size(); i++) {
            JsonNode line = JSON.readTree(lines.get(i));
            String time = line.get("timestamp").textValue().replace(' ', 'T').replace("TUTC", "Z");
            assertEquals(Instant.parse(time), events.get(i).time());
            assertEquals(
                    levels.get(line.get("error_severity").textValue()),
                    events.get(i).level());
            assertEquals(line.get("message").textValue(), events.get(i).message());
            assertEquals(line.get("pid").longValue(), events.get(i).fields().get("pid"));
        }
        assertEquals(
                2, events.stream().filter(event -> event.level() == Level.ERROR).count());
    }

    @Test
    void aWebServersJsonLogWithAccesses() throws IOException {
        List<Event> events = events("caddy.jsonl");
        List<String> lines = lines("caddy.jsonl");
        for (int i = 0; i < lines.size(); i++) {
            JsonNode line = JSON.readTree(lines.get(i));
            long nanos =
                    new BigDecimal(line.get("ts").asText()).movePointRight(9).longValue();
            assertEquals(nanos / 1_000_000, events.get(i).epochNanos() / 1_000_000);
            assertEquals(Level.of(line.get("level").textValue()), events.get(i).level());
            assertEquals(line.get("msg").textValue(), events.get(i).message());
            assertEquals(line.path("logger").textValue(), events.get(i).logger());
        }
        Asked accesses = Asked.at(SAMPLES).where("request.method = POST and status >= 500");
        assertEquals(1, accesses.newest(10).matching());
    }

    @Test
    void aLogOfPairs() throws IOException {
        Pattern form = Pattern.compile("time=\"([^\"]*)\" level=(\\w+) msg=\"((?:[^\"\\\\]|\\\\.)*)\".*");
        Map<String, Level> levels = Map.of("info", Level.INFO, "warning", Level.WARN, "error", Level.ERROR);
        List<Event> events = events("containerd.log");
        List<String> lines = lines("containerd.log");
        for (int i = 0; i < lines.size(); i++) {
            Matcher line = form.matcher(lines.get(i));
            assertTrue(line.matches(), lines.get(i));
            assertEquals(
                    Times.epochNanos(Instant.parse(line.group(1))),
                    events.get(i).epochNanos());
            assertEquals(levels.get(line.group(2)), events.get(i).level());
            assertEquals(line.group(3).replace("\\\"", "\""), events.get(i).message());
        }
    }

    private static List<String> lines(String name) throws IOException {
        List<String> lines = Files.readAllLines(SAMPLES.resolve(name));
        assertTrue(lines.size() > 10, name);
        return lines;
    }

    /** In the order of the file, in which each of them is sorted. */
    private static List<Event> events(String name) throws IOException {
        List<Event> events = new ArrayList<>();
        Coverage coverage;
        try (InputStream stream = Files.newInputStream(SAMPLES.resolve(name))) {
            Following following = new LineStream(stream).follow(Condition.EVERYTHING);
            Following.Listener listener = new Following.Listener() {
                @Override
                public void event(Event event) {
                    events.add(event);
                }

                @Override
                public void foreign(String line) {
                    throw new AssertionError(line);
                }
            };
            while (following.poll(listener)) {
                assertTrue(events.size() > 0);
            }
            coverage = following.coverage();
        }
        assertEquals(0, coverage.unreadableCount(), coverage.unreadable().toString());
        assertEquals(lines(name).size(), events.size());
        return events;
    }
}
