package dev.graphema.lines;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Event;
import dev.graphema.query.Ask;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.answer.Timeline;
import dev.graphema.text.Times;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Questions that once had wrong answers. */
class FoundRightTest {
    @TempDir
    Path folder;

    @Test
    void whatIsNotWrittenWhenItIsFalseIsFoundAsFalse() throws IOException {
        Asked logs = logs("""
                {"time":"2026-05-15T06:00:00.000000000Z","level":"info","message":"a","held":true,"fields":{"x":[0,9]}}
                {"time":"2026-05-15T06:00:00.000000001Z","level":"info","message":"b","repeat":true,"fields":{"x":[3]}}
                """);

        assertEquals(List.of("b"), found(logs, "held = false"));
        assertEquals(List.of("a"), found(logs, "event.repeat = false"));
        assertEquals(List.of("a"), found(logs, "event.repeat in (false)"));
        assertEquals(
                List.of(List.of("false"), List.of("true")),
                logs.counts("held").rows().stream()
                        .map(CountTable.Row::values)
                        .sorted((a, b) -> a.get(0).compareTo(b.get(0)))
                        .toList());
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "{'time':'2026-05-15T06:00:00Z','severity':'WARNING','host':{'name':'h1'},'msg':'m'}",
                "time=2026-05-15T06:00:00Z severity=WARNING host.name=h1 msg=m"
            })
    void aNameThatMeansAnAttributeIsAlsoAskedAsItIsWritten(String written) throws IOException {
        String line = written.replace('\'', '"') + "\n";
        Asked logs = logs(line);

        assertEquals(List.of("m"), found(logs, "level = warn"));
        assertEquals(List.of("m"), found(logs, "severity = WARNING and host.name = h1"));
        assertEquals(List.of(), found(logs, "severity = warn"));
        for (Asked each : List.of(logs, Asked.from(new ByteArrayInputStream(line.getBytes(StandardCharsets.UTF_8))))) {
            CountTable tally = each.counts("severity", "level");
            assertEquals(
                    List.of(List.of("WARNING", "warn")),
                    tally.rows().stream().map(CountTable.Row::values).toList());
        }
        assertEquals(
                List.of(),
                found(logs, "fields.level = warn"),
                "the attribute's own name means the field only when it is one");
        assertTrue(logs.newest(1).events().get(0).fields().isEmpty(), "who does not ask for it does not see it");
    }

    @Test
    void ofAListTheSameItemLiesBetween() throws IOException {
        Asked logs = logs("""
                {"time":"2026-05-15T06:00:00.000000000Z","level":"info","message":"a","fields":{"x":[0,9]}}
                {"time":"2026-05-15T06:00:00.000000001Z","level":"info","message":"b","fields":{"x":[0,3]}}
                """);

        assertEquals(List.of("b"), found(logs, "x between 1 and 5"));
    }

    @Test
    void dailyStepsBeginAtMidnightAlsoAfterAClockChange() throws IOException {
        ZoneId berlin = ZoneId.of("Europe/Berlin");
        StringBuilder lines = new StringBuilder();
        for (int day = 20; day <= 30; day++) { // the clocks change on 25 October 2026
            for (String time : List.of("00:30", "23:30")) {
                Instant moment = java.time.LocalDateTime.parse("2026-10-" + day + "T" + time)
                        .atZone(berlin)
                        .toInstant();
                lines.append("{\"time\":\"").append(moment).append("\",\"level\":\"info\",\"message\":\"m\"}\n");
            }
        }
        Timeline timeline = logs(lines.toString()).answer(new Ask.TimeSteps(100, Duration.ofDays(1), berlin, null, 0));

        assertEquals(11, timeline.steps().size());
        for (Timeline.Step step : timeline.steps()) {
            assertEquals(2, step.count());
            assertEquals(0, Times.instant(step.from()).atZone(berlin).getHour());
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"1s", "PT24H", "P7D"})
    void aTimelineOverAllYearsEnds(String step) throws IOException {
        Asked logs = logs("""
                {"time":"0001-01-01T00:00:00.000000000Z","level":"info","message":"a"}
                {"time":"2026-05-15T06:00:00.000000000Z","level":"info","message":"b"}
                {"time":"9999-12-31T23:59:59.999999999Z","level":"info","message":"c"}
                """);
        Duration length = step.equals("1s")
                ? Duration.ofSeconds(1)
                : step.equals("P7D") ? Duration.ofDays(7) : Duration.ofDays(1);
        Timeline timeline = logs.answer(new Ask.TimeSteps(100, length, ZoneId.of("Europe/Berlin"), null, 0));

        assertEquals(
                3, timeline.steps().stream().mapToLong(Timeline.Step::count).sum());
        assertEquals(2, timeline.coverage().damagedCount(), "nanoseconds since 1970 do not reach so far");
    }

    @Test
    void anEventWithoutATimeIsShownInItsPlaceAndCounted() throws IOException {
        Asked logs = logs("""
                {"time":"2026-05-15T06:00:00Z","message":"a"}
                {"message":"b"}
                {"time":"2026-05-15T07:00:00Z","message":"c"}
                """);
        List<Event> events = new ArrayList<>();
        Coverage coverage = logs.read(events::add);

        assertEquals(List.of("a", "b", "c"), events.stream().map(Event::message).toList());
        assertTrue(!events.get(1).hasTime());
        assertEquals(1, coverage.damagedCount());
        assertEquals(List.of(), found(logs, "message = b and time < 2027-01-01"));
    }

    @Test
    void findingAndCountingAgreeAboutDamagedLines() throws IOException {
        byte[] begin =
                "{\"time\":\"2026-05-15T06:00:00.000000000Z\",\"level\":\"warn\",\"message\":\"m\",\"fields\":{\"lane\":\"A3\",\"x\":"
                        .getBytes(StandardCharsets.UTF_8);
        ByteArrayOutputStream file = new ByteArrayOutputStream();
        String[] damages = {"\"\u00FF\u00FE\"", "\"\u0007\"", "\"\\q\"", "0123", "1x", "{]", "\"open"};
        for (String damage : damages) {
            file.write(begin);
            file.write(damage.getBytes(StandardCharsets.ISO_8859_1));
            file.write("}}\n".getBytes(StandardCharsets.UTF_8));
        }
        Files.write(folder.resolve("log.jsonl"), file.toByteArray());
        Asked logs = Asked.at(folder);
        List<Event> events = new ArrayList<>();
        logs.read(events::add);

        assertEquals(damages.length, events.size());
        assertEquals(damages.length, logs.newest(100).events().size());
        assertEquals(damages.length, logs.counts("level").all().count());
        assertEquals(damages.length, found(logs, "level = warn").size());
        assertEquals(
                damages.length, logs.where("lane = A3").counts("lane").all().count());
    }

    @Test
    void aBadFileCostsOnlyItselfAndIsReportedOnce() throws IOException {
        logs("{\"time\":\"2026-05-15T06:00:00Z\",\"message\":\"good\"}\n");
        Path gone = folder.resolve("gone.jsonl");
        Files.writeString(gone, "{\"time\":\"2026-05-15T06:00:00Z\",\"message\":\"gone\"}\n");
        Asked logs = Asked.at(folder);
        Files.delete(gone);

        assertEquals(List.of("good"), found(logs, "message exists"));
        Coverage read = logs.read(event -> true);
        assertEquals(1, read.failures().size(), read.failures().toString());
        assertEquals(gone.toString(), read.failures().get(0).source());
        assertEquals(1, logs.newest(10).coverage().failures().size());
    }

    @Test
    void linesLongerThanTheMemoryCostNothingButThemselves() throws IOException {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (OutputStream gzip = new GZIPOutputStream(bytes)) {
            byte[] zeros = new byte[1 << 20];
            for (int i = 0; i < 300; i++) {
                gzip.write(zeros);
            }
            gzip.write(
                    "\n{\"time\":\"2026-05-15T06:00:00Z\",\"message\":\"behind\"}\n".getBytes(StandardCharsets.UTF_8));
        }
        Files.write(folder.resolve("zeros.jsonl.gz"), bytes.toByteArray());

        assertEquals(List.of("behind"), found(Asked.at(folder), "message exists"));
    }

    @Test
    void manyFilesAreMergedThoughOnlySomeAreOpen() throws IOException {
        int files = 500;
        for (int i = 0; i < files; i++) {
            StringBuilder lines = new StringBuilder();
            for (int k = 0; k < 3; k++) {
                Instant time = Instant.parse("2026-05-15T06:00:00Z").plusSeconds(i + k * 250L);
                lines.append("{\"time\":\"")
                        .append(time)
                        .append("\",\"message\":\"")
                        .append(i)
                        .append("\"}\n");
            }
            lines.append("no event\n");
            Files.writeString(folder.resolve("log%04d.jsonl".formatted(i)), lines);
        }
        List<Event> events = new ArrayList<>();
        Coverage coverage = Asked.at(folder).read(events::add);

        assertEquals(4 * files, events.size());
        assertEquals(4 * files, coverage.events());
        assertEquals(files, coverage.damagedCount());
        for (int i = 1; i < events.size(); i++) {
            assertTrue(events.get(i - 1).epochNanos() <= events.get(i).epochNanos());
        }
    }

    private Asked logs(String lines) throws IOException {
        return Asked.at(Files.writeString(folder.resolve("log.jsonl"), lines));
    }

    private static List<String> found(Asked logs, String condition) throws IOException {
        List<String> messages = new ArrayList<>();
        logs.where(condition).read(event -> messages.add(event.message()));
        assertEquals(messages.size(), logs.where(condition).newest(1000).matching(), condition);
        return messages;
    }
}
