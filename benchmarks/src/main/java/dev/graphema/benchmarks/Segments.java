package dev.graphema.benchmarks;

import com.github.luben.zstd.ZstdOutputStream;
import com.sun.management.OperatingSystemMXBean;
import dev.graphema.condition.Name;
import dev.graphema.event.Draft;
import dev.graphema.event.Failure;
import dev.graphema.event.Level;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.segments.SegmentConversion;
import dev.graphema.segments.SegmentFiles;
import dev.graphema.segments.store.Store;
import dev.graphema.segments.store.StoreOptions;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.lang.management.ManagementFactory;
import java.math.BigDecimal;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeoutException;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Segments and the store, beside zstd, the sync of a file, and DuckDB over typed Parquet of the same events if its driver is on the
 * class path. CPU time of the process, the best of several runs.
 */
final class Segments {
    private static final String PART = "segments";
    private static final int LOOKS = 5;

    /** The number of times in a row, because the system counts CPU time in hundredths of a second. */
    private static final int TIMES = 10;

    /** The compiler needs so long for a question. */
    private static final long WARMING_NANOS = 3_000_000_000L;

    /** The names that a comparison reads. */
    private static final List<String> CONTRASTED =
            List.of("level", "service", "instance", "logger", "message", "vehicle", "lane", "lock_wait_ms");

    private static final Failure LANE_NOT_FREE = Failure.of(new IllegalStateException("lane not free"));
    private static final Failure NO_ANSWER =
            Failure.of(new IOException("gate-2 did not answer", new TimeoutException("250 ms")));

    private static final int APPENDS = 2000;
    private static final int LINES_OF_APPEND = 100;
    private static final double MILLION = 1e6;
    private static final OperatingSystemMXBean PROCESS =
            ManagementFactory.getPlatformMXBean(OperatingSystemMXBean.class);

    private final String command;
    private final Path folder;
    private final Path lines;
    private final Path segment;
    private final long events;
    private final String trace;
    private final List<Figure> figures = new ArrayList<>();

    private Segments(String command, Path folder, long events) throws IOException {
        this.command = command;
        this.folder = folder;
        this.lines = folder.resolve("events.jsonl");
        this.segment = folder.resolve("events.gseg");
        this.events = events;
        this.trace = Finding.write(lines, events, Segments::addRare);
    }

    /** Adds what few events have: a failure of one of two kinds, and a field. */
    private static void addRare(Draft event, long number) {
        if (event.level() == Level.ERROR) {
            event.failure(number % 3 == 0 ? LANE_NOT_FREE : NO_ANSWER);
        }
        if (number % 10_000 == 5_000) {
            event.fields(f -> f.put("hatch", "H" + number / 10_000 % 20));
        }
    }

    static List<Figure> figures(String command, long events) throws IOException, SQLException, InterruptedException {
        Path folder = Files.createTempDirectory("graphema-benchmark");
        try {
            Segments segments = new Segments(command, folder, events);
            segments.measure();
            return segments.figures;
        } finally {
            delete(folder);
        }
    }

    private static void delete(Path folder) throws IOException {
        try (Stream<Path> files = Files.walk(folder)) {
            for (Path file : files.sorted((one, other) -> other.compareTo(one)).toList()) {
                Files.delete(file);
            }
        }
    }

    private void measure() throws IOException, SQLException, InterruptedException {
        sealing();
        appending();
        processes();
        EventSource source = SegmentFiles.at(List.of(segment));
        try (Rival rival = Rival.of(lines, folder.resolve("events.parquet"))) {
            if (rival == null) {
                System.err.println("DuckDB is not on the class path: its figures are left out");
            } else {
                figures.add(Figure.alone(
                        PART, "DuckDB, JSON to Parquet, CPU per million", rival.written / (events / MILLION), "ms"));
            }
            counting(source, rival);
            finding(source, rival);
        }
    }

    private void counting(EventSource source, Rival rival) throws IOException, SQLException {
        ask("tally of level and service", Question.all().counts("level", "service"), source, rival, """
                SELECT level, service, count(*) FROM events GROUP BY ALL""");
        ask("errors per minute", Question.where("level >= error").timeline(Duration.ofMinutes(1)), source, rival, """
                SELECT time_bucket(INTERVAL 1 MINUTE, time), count(*) FROM events WHERE level IN ('error', 'fatal') GROUP BY ALL""");
        ask(
                "95th percentile by service",
                Question.all()
                        .ask(new Ask.Counts(
                                List.of(Name.of("service")),
                                Name.of("lock_wait_ms"),
                                List.of(BigDecimal.valueOf(95)),
                                false)),
                source,
                rival,
                """
                SELECT service, quantile_cont(lock_wait_ms, 0.95) FROM events GROUP BY ALL""");
        ask(
                "comparison of errors with the others",
                Question.where("level = error").contrastWith(Question.where("level != error")),
                source,
                rival,
                CONTRASTED.stream().map("""
                                SELECT '%1$s', %1$s::VARCHAR, count(*) FILTER (level = 'error'), count(*) FILTER (level != 'error') \
                                FROM events GROUP BY ALL"""::formatted).collect(Collectors.joining(" UNION ALL ")));
    }

    private void finding(EventSource source, Rival rival) throws IOException, SQLException {
        ask("failures by kind", Question.all().failures(), source, rival, """
                SELECT fingerprint, failure.type, any_value(failure.message), count(*), min(time), max(time), count(DISTINCT service) \
                FROM events WHERE fingerprint IS NOT NULL GROUP BY ALL""");
        ask("a rare value of a rare field", Question.where("hatch = H17").newest(50), source, rival, """
                SELECT * FROM events WHERE hatch = 'H17' ORDER BY time DESC LIMIT 50""");
        ask(
                "newest 50 of three conditions",
                Question.where("level >= warn and service = deck and lane = A3").newest(50),
                source,
                rival,
                """
                SELECT * FROM events WHERE level IN ('warn', 'error', 'fatal') AND service = 'deck' AND lane = 'A3' ORDER BY time DESC LIMIT 50""");
        ask("one trace", Question.where("trace = " + trace).oldest(50), source, rival, """
                SELECT * FROM events WHERE trace = '%s' ORDER BY time LIMIT 50""".formatted(trace));
        ask("a phrase without a hit", Question.where("\"reserve decks\"").newest(50), source, rival, """
                SELECT * FROM events WHERE concat_ws(' ', service, instance, logger, message, trace, span, thread, vehicle, lane) \
                ILIKE '%reserve decks%' LIMIT 50""");
        ask("a number above a bound", Question.where("lock_wait_ms > 298").newest(50), source, rival, """
                SELECT * FROM events WHERE lock_wait_ms > 298 ORDER BY time DESC LIMIT 50""");
    }

    private void sealing() throws IOException {
        long before = PROCESS.getProcessCpuTime();
        SegmentConversion.convert(lines, segment, Control.NONE);
        double millis = (PROCESS.getProcessCpuTime() - before) / MILLION;
        figures.add(Figure.atMost(4000, PART, "sealing, CPU per million", millis / (events / MILLION), "ms"));
        figures.add(Figure.alone(PART, "size", Files.size(segment) / MILLION, "MB")
                .beside("zstd -3 of the lines", zipped() / MILLION)
                .within(0.42));
    }

    private long zipped() throws IOException {
        long[] size = new long[1];
        OutputStream counting = new OutputStream() {
            @Override
            public void write(int b) {
                size[0]++;
            }

            @Override
            public void write(byte[] bytes, int from, int length) {
                size[0] += length;
            }
        };
        try (InputStream in = Files.newInputStream(lines);
                OutputStream zstd = new ZstdOutputStream(counting, 3)) {
            in.transferTo(zstd);
        }
        return size[0];
    }

    /** A hundred lines at a time, each batch synced. */
    private void appending() throws IOException {
        byte[] batch;
        try (Stream<String> some = Files.lines(lines)) {
            batch = (String.join("\n", some.limit(LINES_OF_APPEND).toList()) + "\n").getBytes();
        }
        double best = Double.POSITIVE_INFINITY;
        double limit = Double.POSITIVE_INFINITY;
        for (int look = 0; look < 6; look++) {
            limit = Math.min(limit, forced(batch, folder.resolve("forced" + look)));
            best = Math.min(best, appended(batch, folder.resolve("store" + look)));
        }
        figures.add(Figure.alone(PART, "durable append of 100 events", best, "us")
                .beside("write and sync of the same bytes", limit)
                .within(1.3));
    }

    private static double forced(byte[] batch, Path file) throws IOException {
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.CREATE, StandardOpenOption.WRITE)) {
            long start = System.nanoTime();
            for (int i = 0; i < APPENDS; i++) {
                channel.write(ByteBuffer.wrap(batch));
                channel.force(false);
            }
            return (System.nanoTime() - start) / 1e3 / APPENDS;
        }
    }

    private static double appended(byte[] batch, Path folder) throws IOException {
        try (Store store = Store.open(folder, StoreOptions.usual(System.err::println))) {
            long start = System.nanoTime();
            for (int i = 0; i < APPENDS; i++) {
                store.append(batch);
            }
            return (System.nanoTime() - start) / 1e3 / APPENDS;
        }
    }

    /** The command over the segment, start of the JVM included, beside the same over the lines. */
    private void processes() throws IOException, InterruptedException {
        process("counts by level", "tally", "level");
        process("95th percentile by service", "tally", "service", "--of", "lock_wait_ms");
        process("newest 50 of three conditions", "find", "level >= warn and service = deck and lane = A3");
        process("one trace", "find", "trace = " + trace);
        process("a phrase without a hit", "find", "\"reserve decks\"");
    }

    private void process(String name, String... question) throws IOException, InterruptedException {
        double[] both = Processes.inTurn(3, 2, asking(segment, question), asking(lines, question));
        figures.add(Figure.alone(PART, name + ", process", both[0], "ms")
                .beside("the command over the lines", both[1])
                .within(0.2));
    }

    private List<String> asking(Path in, String... question) {
        List<String> all = new ArrayList<>(List.of(command));
        all.addAll(List.of(question));
        all.addAll(List.of("--in", in.toString()));
        return all;
    }

    private void ask(String name, Question<?> question, EventSource source, Rival rival, String sql)
            throws IOException, SQLException {
        double best = Double.POSITIVE_INFINITY;
        double besides = Double.POSITIVE_INFINITY;
        long warmAt = System.nanoTime() + WARMING_NANOS;
        while (System.nanoTime() - warmAt < 0) {
            QueryExecutor.answer(question, source);
        }
        for (int look = 0; look < LOOKS; look++) {
            long before = PROCESS.getProcessCpuTime();
            for (int i = 0; i < TIMES; i++) {
                QueryExecutor.answer(question, source);
            }
            best = Math.min(best, PROCESS.getProcessCpuTime() - before);
            if (rival != null) {
                besides = Math.min(besides, rival.ask(sql));
            }
        }
        Figure figure = Figure.alone(PART, name + ", CPU", best / TIMES / MILLION, "ms");
        figures.add(
                rival == null
                        ? figure
                        : figure.beside("DuckDB, typed Parquet", besides / TIMES / MILLION)
                                .within(0.4));
    }

    /** DuckDB, with one thread. */
    private static final class Rival implements AutoCloseable {
        private final Connection connection;
        private final Statement statement;
        private final double written;

        private Rival(Connection connection, Path lines, Path parquet) throws SQLException {
            this.connection = connection;
            this.statement = connection.createStatement();
            statement.execute("SET threads = 1");
            long before = PROCESS.getProcessCpuTime();
            statement.execute("""
                    COPY (SELECT time, level, service, instance, logger, message, trace, span, thread, sequence, fields.*, fingerprint, failure \
                    FROM read_json('%s', format = 'newline_delimited', columns = {time: 'TIMESTAMP_NS', level: 'VARCHAR', \
                    service: 'VARCHAR', instance: 'VARCHAR', logger: 'VARCHAR', message: 'VARCHAR', trace: 'VARCHAR', span: 'VARCHAR', \
                    thread: 'VARCHAR', sequence: 'BIGINT', fields: 'STRUCT(vehicle VARCHAR, lane VARCHAR, lock_wait_ms BIGINT, hatch VARCHAR)', fingerprint: 'VARCHAR', \
                    failure: 'STRUCT(type VARCHAR, message VARCHAR, frames VARCHAR[])'})) \
                    TO '%s' (FORMAT parquet, COMPRESSION zstd)""".formatted(lines, parquet));
            this.written = (PROCESS.getProcessCpuTime() - before) / MILLION;
            statement.execute("CREATE VIEW events AS SELECT * FROM read_parquet('" + parquet + "')");
        }

        /** Returns null if there is no driver. */
        static Rival of(Path lines, Path parquet) throws SQLException {
            boolean isThere = DriverManager.drivers()
                    .anyMatch(driver -> driver.getClass().getName().startsWith("org.duckdb."));
            return isThere ? new Rival(DriverManager.getConnection("jdbc:duckdb:"), lines, parquet) : null;
        }

        /** Returns the CPU time of all times, in nanoseconds. */
        long ask(String sql) throws SQLException {
            long before = PROCESS.getProcessCpuTime();
            for (int i = 0; i < TIMES; i++) {
                read(sql);
            }
            return PROCESS.getProcessCpuTime() - before;
        }

        private void read(String sql) throws SQLException {
            try (ResultSet rows = statement.executeQuery(sql)) {
                int columns = rows.getMetaData().getColumnCount();
                while (rows.next()) {
                    for (int column = 1; column <= columns; column++) {
                        rows.getObject(column);
                    }
                }
            }
        }

        @Override
        public void close() throws SQLException {
            statement.close();
            connection.close();
        }
    }
}
