package dev.graphema.spark;

import static org.junit.jupiter.api.Assertions.assertEquals;

import dev.graphema.event.Event;
import dev.graphema.lines.form.WrittenEvents;
import dev.graphema.query.Question;
import dev.graphema.query.Window;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.json.AnswerJson;
import dev.graphema.query.partial.EventLines;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.segments.SegmentFiles;
import dev.graphema.segments.SegmentWriter;
import dev.graphema.sql.WrittenTables;
import dev.graphema.sql.source.SqlSource;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.stream.Stream;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.functions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/**
 * The same events as segments, as a table of PostgreSQL and as a lake have the same answers; with {@code -Devents=20000000}, how long they take
 * is worth a look. Many events are made of fewer by copies, each an hour later than the one before.
 */
class SideBySideTest {
    private static final long EVENTS = Long.getLong("events", 4_000);
    private static final int MOST_MADE = 500_000;
    private static final Instant BEGIN = Instant.parse("2026-05-01T00:00:00Z");
    private static final String TABLE = "side_by_side";
    private static final String RUN = "%016x";
    private static final List<String> MESSAGES = List.of(
            "seat held",
            "seat released",
            "lane taken",
            "lane not free",
            "fare found",
            "crossing refused",
            "gate opened",
            "ticket read",
            "request",
            "call");

    /** What is asked, by what it is called in the table. */
    private static final Map<String, Question<?>> QUESTIONS = new LinkedHashMap<>();

    static {
        QUESTIONS.put("events by level", Question.all().counts("level"));
        QUESTIONS.put("errors by service", Question.where("level >= error").counts("service"));
        QUESTIONS.put("the newest 50 errors", Question.where("level >= error").newest(50));
        QUESTIONS.put(
                "a trace",
                Question.where("trace = 000000000000000000000000000004d2").newest(100));
        QUESTIONS.put(
                "long waits by instance", Question.where("lock_wait_ms > 990").counts("instance"));
        QUESTIONS.put(
                "a phrase",
                Question.where("message has \"crossing refused\" and level >= error")
                        .counts("instance"));
        QUESTIONS.put(
                "errors of an hour",
                Question.where("level >= error")
                        .during(Window.between(BEGIN, BEGIN.plusSeconds(3_600)))
                        .counts("service", "logger"));
    }

    @TempDir
    private Path folder;

    @Test
    @Timeout(14_400)
    void theAnswersAreTheSame() throws Exception {
        int made = (int) Math.min(EVENTS, MOST_MADE);
        int copies = (int) (EVENTS / made);
        List<String> lines = lines(made);
        Map<String, EventSource> sources = new LinkedHashMap<>();
        time("segments are written", () -> sources.put("segments", segments(lines, copies)));
        time("the table is written", () -> sources.put("PostgreSQL", table(lines, copies)));
        time("the lake is written", () -> sources.put("Spark", lake(lines, copies)));
        System.out.printf(
                Locale.ROOT,
                "%d events; segments: %d MB, lake: %d MB%n",
                EVENTS,
                megabytes("segments"),
                megabytes("lake"));
        QUESTIONS.forEach((name, question) -> {
            StringBuilder row = new StringBuilder(String.format("%-24s", name));
            List<String> expected = null;
            for (Map.Entry<String, EventSource> each : sources.entrySet()) {
                long begin = System.nanoTime();
                List<String> found = rows(question, each.getValue());
                row.append(String.format(Locale.ROOT, "  %s %.2f s", each.getKey(), (System.nanoTime() - begin) / 1e9));
                expected = expected == null ? found : expected;
                assertEquals(expected, found, name + " in " + each.getKey());
            }
            System.out.println(row);
        });
    }

    private interface Step {
        void run() throws Exception;
    }

    private static void time(String what, Step step) throws Exception {
        long begin = System.nanoTime();
        step.run();
        System.out.printf(Locale.ROOT, "%s in %.1f s%n", what, (System.nanoTime() - begin) / 1e9);
    }

    private long megabytes(String name) throws IOException {
        try (Stream<Path> files = Files.walk(folder.resolve(name))) {
            return files.filter(Files::isRegularFile)
                            .mapToLong(file -> file.toFile().length())
                            .sum()
                    >> 20;
        }
    }

    private static <A extends Answer> List<String> rows(Question<A> question, EventSource source) {
        try {
            return AnswerJson.rows(QueryExecutor.answer(question, source)).toList();
        } catch (IOException e) {
            throw new IllegalStateException(e);
        }
    }

    private static List<String> lines(int count) {
        Random random = new Random(15);
        List<String> lines = new ArrayList<>(count);
        for (int i = 0; i < count; i++) {
            boolean isError = random.nextInt(200) == 0;
            String service = List.of("booking", "deck", "gate", "fares").get(random.nextInt(4));
            lines.add(
                    ("{\"time\":\"%s\",\"level\":\"%s\",\"service\":\"%s\",\"instance\":\"%s-%d\",\"logger\":\"skerry.%s.%s\","
                                    + "\"message\":\"%s\",\"trace\":\"%032x\",\"span\":\"%016x\",\"sequence\":%d,\"id\":\""
                                    + RUN
                                    + "-%d\",\"fields\":{\"lock_wait_ms\":%d,\"booking\":\"B%07d\",\"route\":\"/sailings/SK-%d/bookings\"}}")
                            .formatted(
                                    time(3_600_000_000_000L / count * i),
                                    isError ? "error" : random.nextInt(20) == 0 ? "warn" : "info",
                                    service,
                                    service,
                                    random.nextInt(2) + 1,
                                    service,
                                    List.of("Lanes", "Desk", "Service").get(random.nextInt(3)),
                                    MESSAGES.get(random.nextInt(MESSAGES.size())),
                                    1_000 + i / 10,
                                    i,
                                    i + 1,
                                    0,
                                    i + 1,
                                    random.nextInt(1_000),
                                    random.nextInt(100_000),
                                    random.nextInt(500)));
        }
        return lines;
    }

    private static String time(long nanos) {
        Instant time = BEGIN.plusNanos(nanos);
        return time.toString().replaceAll("Z$", "").length() == 19
                ? time.toString().replace("Z", ".000000000Z")
                : String.format("%-29s", time.toString().replace("Z", "")).replace(' ', '0') + "Z";
    }

    /** Returns a line of a copy: this many hours later, of another run. */
    private static String copied(String line, int copy) {
        Instant time = Instant.parse(line.substring(9, 39)).plusSeconds(3_600L * copy);
        return line.substring(0, 9)
                + time.toString().substring(0, 19)
                + line.substring(28).replace("\"id\":\"" + RUN.formatted(0), "\"id\":\"" + RUN.formatted(copy));
    }

    private EventSource segments(List<String> lines, int copies) throws IOException {
        Files.createDirectories(folder.resolve("segments"));
        List<Path> files = new ArrayList<>();
        for (int copy = 0; copy < copies; copy++) {
            Path file = folder.resolve("segments/" + copy + SegmentFiles.SUFFIX);
            try (SegmentWriter writer = new SegmentWriter(file)) {
                for (String each : lines) {
                    byte[] line = copied(each, copy).getBytes(StandardCharsets.UTF_8);
                    writer.add(line, 0, line.length);
                }
                writer.finish();
            }
            files.add(file);
        }
        return SegmentFiles.at(files);
    }

    private static List<Event> events(List<String> lines, int from, int to) {
        EventLines reader = WrittenEvents.reader();
        return lines.subList(from, to).stream()
                .map(line -> reader.read(line, 0))
                .toList();
    }

    private EventSource table(List<String> lines, int copies) throws IOException, SQLException {
        String url = WrittenTables.url("postgresql");
        for (int from = 0; from < lines.size(); from += 10_000) {
            WrittenTables.write(url, TABLE, events(lines, from, Math.min(lines.size(), from + 10_000)));
        }
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement()) {
            statement.execute("set synchronous_commit to off");
            String columns = columns(statement);
            for (int copy = 1; copy < copies; copy++) {
                String run = RUN.formatted(copy);
                statement.execute("insert into " + TABLE + " (" + columns + ") select "
                        + columns.replace("\"id\"", "replace(id, '" + RUN.formatted(0) + "', '" + run + "')")
                                .replace("\"time\"", "time + interval '" + copy + " hours'")
                                .replace(
                                        "\"line\"",
                                        "overlay(replace(line, '\"id\":\"" + RUN.formatted(0) + "', '\"id\":\"" + run
                                                + "') placing to_char((time at time zone 'UTC') + interval '" + copy
                                                + " hours', 'YYYY-MM-DD\"T\"HH24:MI:SS') from 10)")
                        + " from " + TABLE + " where time < timestamptz '" + BEGIN.plusSeconds(3_600) + "'");
            }
            statement.execute("analyze " + TABLE);
            try (ResultSet size =
                    statement.executeQuery("select pg_total_relation_size('" + TABLE + "') / 1024 / 1024")) {
                size.next();
                System.out.println("the table has " + size.getLong(1) + " MB");
            }
        }
        return SqlSource.of(url, null, null, TABLE);
    }

    private static String columns(Statement statement) throws SQLException {
        List<String> names = new ArrayList<>();
        try (ResultSet columns =
                statement.executeQuery("select column_name from information_schema.columns where table_name = '" + TABLE
                        + "' and column_name <> 'number' order by ordinal_position")) {
            while (columns.next()) {
                names.add('"' + columns.getString(1) + '"');
            }
        }
        return String.join(", ", names);
    }

    private EventSource lake(List<String> lines, int copies) throws IOException {
        Lake lake = Lake.create(Sessions.local(), folder.resolve("lake").toString(), List.of("lock_wait_ms"));
        for (int from = 0; from < lines.size(); from += 50_000) {
            Sessions.fill(lake, "made-" + from, events(lines, from, Math.min(lines.size(), from + 50_000)));
        }
        Dataset<Row> made = lake.events();
        for (int copy = 1; copy < copies; copy++) {
            String run = RUN.formatted(copy);
            Dataset<Row> copied = made.withColumn(
                            "id", functions.expr("replace(id, '" + RUN.formatted(0) + "', '" + run + "')"))
                    .withColumn("time", functions.expr("time + interval " + copy + " hours"))
                    .withColumn(
                            "line",
                            functions.expr("overlay(replace(line, '\"id\":\"" + RUN.formatted(0) + "', '\"id\":\"" + run
                                    + "') placing date_format(time, \"yyyy-MM-dd'T'HH:mm:ss\") from 10)"))
                    .withColumn("day", functions.expr("to_date(time)"))
                    .withColumn("hour", functions.expr("hour(time)"));
            lake.write(copied.coalesce(1), lake.files().staging("copy-" + copy));
            lake.files().commit("copy-" + copy, List.of());
        }
        return LakeSource.of(lake);
    }
}
