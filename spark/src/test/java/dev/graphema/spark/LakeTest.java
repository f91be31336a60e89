package dev.graphema.spark;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.Condition;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.query.Question;
import dev.graphema.query.Window;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.segments.store.LegalHold;
import dev.graphema.segments.store.RetentionRule;
import dev.graphema.segments.store.StoreRules;
import dev.graphema.spark.job.Main;
import dev.graphema.text.Times;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.apache.spark.sql.Row;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class LakeTest {
    private static final Instant TIME = Instant.parse("2026-05-15T06:31:02.123456789Z");
    private static final String RUN = "00000000000000a1";

    @TempDir
    private Path folder;

    private Lake lake;

    @BeforeEach
    void create() throws IOException {
        lake = Lake.create(Sessions.local(), folder.resolve("lake").toString(), List.of("lock_wait_ms", "route"));
    }

    private static Event event(int number, Instant time) {
        return Draft.ofWritten()
                .level(number % 10 == 0 ? Level.ERROR : Level.INFO)
                .service(number % 2 == 0 ? "deck" : "booking")
                .message("event " + number)
                .run(RUN)
                .sequence(number + 1)
                .time(Times.epochNanos(time))
                .fields(to -> to.put("lock_wait_ms", number)
                        .put("gate", "G" + number % 3)
                        .put("lanes", List.of("A1", "B2")))
                .finish();
    }

    private static List<Event> events(int from, int to) {
        List<Event> events = new ArrayList<>();
        for (int i = from; i < to; i++) {
            events.add(event(i, TIME.plus(Duration.ofMinutes(10L * i))));
        }
        return events;
    }

    private boolean append(String name, List<Event> events) throws IOException {
        return lake.append(name, Sessions.rows(lake, events));
    }

    private List<Event> read() throws IOException {
        List<Event> events = new ArrayList<>();
        Coverage coverage = QueryExecutor.read(Question.all(), LakeSource.of(lake), Control.NONE, events::add);
        assertEquals(List.of(), coverage.failures());
        return events;
    }

    private List<Path> parquet() throws IOException {
        try (Stream<Path> files = Files.walk(folder.resolve("lake"))) {
            return files.filter(file -> file.toString().endsWith(".parquet"))
                    .sorted()
                    .toList();
        }
    }

    @Test
    void eventsComeBackAsTheyWere() throws IOException {
        List<Event> events = events(0, 20);
        assertTrue(append("first", events));
        assertEquals(events.toString(), read().toString());
        Row row = lake.events().orderBy("time").first();
        assertEquals("deck", row.getAs("service"));
        assertEquals(0.0, row.<Double>getAs("number_lock_wait_ms"));
        assertEquals(
                "G0", row.<String, String>getJavaMap(row.fieldIndex("fields")).get("gate"));
        assertEquals(
                "[\"A1\",\"B2\"]",
                row.<String, String>getJavaMap(row.fieldIndex("fields")).get("lanes"));
        assertEquals(RUN + "-1", row.getAs("id"));
        assertTrue(
                parquet().get(0).toString().contains("day=2026-05-15/hour="),
                parquet().toString());
    }

    @Test
    void anEventIsThereOnceThoughItIsAddedAgain() throws IOException {
        append("first", events(0, 20));
        assertFalse(append("first", events(0, 20)));
        List<Event> doubled = new ArrayList<>(events(10, 30));
        doubled.addAll(events(25, 30));
        assertTrue(append("second", doubled));
        assertEquals(events(0, 30).toString(), read().toString());
    }

    @Test
    void aConditionSelectsExactly() throws IOException {
        append("first", events(0, 40));
        assertEquals(4, lake.events("level >= error").count());
        assertEquals(2, lake.events("level >= error and lock_wait_ms > 15").count());
        assertEquals(13, lake.events("gate = G1").count());
        assertEquals(1, lake.events("message has \"event 7\"").count());
        assertEquals(20, lake.events("not service = deck").count());
        assertEquals(40, lake.events("").count());
    }

    @Test
    void sparkReadsTheEventsOnlyWhereItMust() throws IOException {
        append("first", events(0, 40));
        String frequent = statement("lock_wait_ms > 15");
        assertTrue(frequent.contains("\"number_lock_wait_ms\" > ?"), frequent);
        assertFalse(frequent.contains("\"line\""), frequent);
        String other = statement("service exists and gate = G1");
        assertTrue(other.contains("\"service\" is not null"), other);
        assertTrue(other.contains("graphema_matches(?, \"line\")"), other);
        assertEquals(
                24,
                QueryExecutor.answer(
                                Question.where("lock_wait_ms > 15").counts("gate", "lock_wait_ms"), LakeSource.of(lake))
                        .rows()
                        .size());
    }

    /** Returns the statement that counts by a frequent field. */
    private String statement(String condition) throws IOException {
        return QueryExecutor.explain(Question.where(condition).counts("lock_wait_ms"), LakeSource.of(lake))
                .lines()
                .filter(line -> line.contains("count(*)"))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void anInterruptedChangeIsNotSeenAndIsMadeAgain() throws IOException {
        append("first", events(0, 10));
        Path root = folder.resolve("lake");
        append("second", events(10, 20));
        List<Path> second = parquet().stream()
                .filter(file -> file.getFileName().toString().startsWith("second-"))
                .toList();
        // as if the process had ended while the files of the second change were moved
        Files.writeString(
                root.resolve("_lists/second.new"),
                String.join("\n", second.stream().map(file -> "+file:" + file).toList()));
        Files.delete(root.resolve("_lists/second.done"));
        assertEquals(events(0, 10).toString(), read().toString());
        assertTrue(append("second", events(10, 20)));
        assertEquals(events(0, 20).toString(), read().toString());
    }

    @Test
    void filesThatAreStillWrittenAreNotSeenAndDamagedOnesAreReported() throws IOException {
        append("first", events(0, 10));
        Path hour = parquet().get(0).getParent();
        Files.writeString(hour.resolve("._hidden.parquet"), "PAR1");
        Files.writeString(hour.resolve("_half.parquet"), "PAR1");
        assertEquals(10, read().size());
        Files.writeString(hour.resolve("half.parquet"), "PAR1");
        List<Event> found = new ArrayList<>();
        Coverage coverage = QueryExecutor.read(Question.all(), LakeSource.of(lake), Control.NONE, found::add);
        assertTrue(
                coverage.failures().toString().contains("half.parquet"),
                coverage.failures().toString());
    }

    @Test
    void aColumnOfAnotherTypeIsReported() throws IOException {
        append("first", events(0, 10));
        Path hour = parquet().get(0).getParent();
        Sessions.local()
                .sql(
                        "select 'many' as severity, 'deck' as service, '{}' as line, true as plain, timestamp'2026-05-15 06:31:02' as time")
                .write()
                .parquet(folder.resolve("other").toString());
        try (Stream<Path> files = Files.list(folder.resolve("other"))) {
            Path other = files.filter(file -> file.toString().endsWith(".parquet"))
                    .findFirst()
                    .orElseThrow();
            Files.copy(other, hour.resolve("other.parquet"));
        }
        List<Event> found = new ArrayList<>();
        Coverage coverage =
                QueryExecutor.read(Question.where("level >= error"), LakeSource.of(lake), Control.NONE, found::add);
        assertTrue(
                coverage.failures().toString().contains("other.parquet"),
                coverage.failures().toString());
    }

    @Test
    void smallFilesArePutTogetherAndOldEventsDeleted() throws IOException {
        for (int i = 0; i < 6; i++) {
            append("change-" + i, List.of(event(i, TIME.plusSeconds(i))));
        }
        append("later", events(100, 110));
        StoreRules rules = new StoreRules(
                List.of(
                        new RetentionRule(Condition.parse("service = deck"), Duration.ofDays(1), Long.MAX_VALUE),
                        new RetentionRule(Condition.EVERYTHING, Duration.ofDays(3650), Long.MAX_VALUE)),
                List.of(new LegalHold("case", Condition.parse("lock_wait_ms = 4"), Window.ALWAYS)));
        long before = parquet().size();
        assertEquals(7, new Tidying(lake, rules, TIME.plus(Duration.ofDays(30))).run());
        assertTrue(parquet().size() < before, parquet().toString());
        List<String> left = read().stream().map(Event::message).toList();
        assertEquals(
                List.of(
                        "event 1",
                        "event 3",
                        "event 4",
                        "event 5",
                        "event 101",
                        "event 103",
                        "event 105",
                        "event 107",
                        "event 109"),
                left);
        assertEquals(0, new Tidying(lake, rules, TIME.plus(Duration.ofDays(30))).run());
        RetentionRule bounded = new RetentionRule(Condition.EVERYTHING, null, 1L << 30);
        assertThrows(
                IllegalArgumentException.class,
                () -> new Tidying(lake, new StoreRules(List.of(bounded), List.of()), TIME));
    }

    @Test
    void twoJobsDoNotReplaceTheSameFiles() throws IOException {
        append("first", events(0, 10));
        List<String> files = lake.files().current();
        lake.write(lake.events(), lake.files().staging("one"));
        lake.write(lake.events(), lake.files().staging("other"));
        lake.files().commit("one", files);
        IOException problem = assertThrows(IOException.class, () -> lake.files().commit("other", files));
        assertTrue(problem.getMessage().contains("is replaced by another job"), problem.getMessage());
        assertEquals(events(0, 10).toString(), read().toString());
    }

    @Test
    void aLogIsExported() throws IOException {
        Path log = Path.of("../examples/day");
        long exported = Main.export(lake, log);
        assertEquals(
                exported,
                QueryExecutor.answer(Question.all().newest(0), LakeSource.of(lake))
                        .matching());
        assertTrue(exported > 10_000, "events: " + exported);
    }

    @Test
    void whatIsNoLakeIsReported() {
        IOException problem = assertThrows(
                IOException.class,
                () -> Lake.at(Sessions.local(), folder.resolve("none").toString()));
        assertTrue(problem.getMessage().contains("is not a lake"), problem.getMessage());
    }
}
