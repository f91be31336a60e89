package dev.graphema.benchmarks;

import dev.graphema.event.Draft;
import dev.graphema.event.Level;
import dev.graphema.format.JsonLines;
import dev.graphema.text.Times;
import dev.graphema.text.Utf8Buffer;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import java.util.function.ObjLongConsumer;

/** Benchmarks of the command over a file, as complete processes, compared with other tools if they are installed. */
final class Finding {
    private static final String PART = "finding";
    private static final int LOOKS = 5;
    private static final int CHUNK = 1 << 20;
    private static final long LONGEST_STEP_NANOS = 160_000_000L;
    private static final long START = Times.epochNanos(Instant.parse("2026-05-15T00:00:00Z"));
    private static final List<String> SERVICES = List.of("booking", "fares", "deck", "gate", "notices");
    private static final String SELECT = "select(.level==\"warn\" or .level==\"error\" or .level==\"fatal\")";

    private final String command;
    private final Path file;
    private final String trace;

    /** @param command the command line that starts the command */
    private Finding(String command, Path file, long events) throws IOException {
        this.command = command;
        this.file = file;
        this.trace = write(file, events);
    }

    static List<Figure> figures(String command, long events) throws IOException, InterruptedException {
        Path file = Files.createTempFile("graphema-benchmark", ".jsonl");
        try {
            return new Finding(command, file, events).measure();
        } finally {
            Files.delete(file);
        }
    }

    /** Measures a tally of all events, by number of events. */
    static Figure tally(String command, long events) throws IOException, InterruptedException {
        Path file = Files.createTempFile("graphema-benchmark", ".jsonl");
        try {
            Finding finding = new Finding(command, file, events);
            return Figure.alone(
                    PART,
                    "tally by service of " + events,
                    Processes.toEnd(LOOKS, finding.asking("tally", "service")),
                    "ms");
        } finally {
            Files.delete(file);
        }
    }

    /**
     * Writes events of about a day, eight per trace.
     *
     * @return a trace in the middle
     */
    static String write(Path file, long events) throws IOException {
        return write(file, events, (event, number) -> {});
    }

    /**
     * As above.
     *
     * @param more adds to each event, whose number is passed, too
     */
    static String write(Path file, long events, ObjLongConsumer<Draft> more) throws IOException {
        SplittableRandom random = new SplittableRandom(7);
        JsonLines lines = new JsonLines();
        Utf8Buffer buffer = new Utf8Buffer(2 * CHUNK);
        TraceId trace = null;
        String middle = null;
        long time = START;
        try (OutputStream to = Files.newOutputStream(file)) {
            for (long i = 0; i < events; i++) {
                time += random.nextLong(LONGEST_STEP_NANOS);
                String service = SERVICES.get(random.nextInt(SERVICES.size()));
                trace = i % 8 == 0 ? new TraceId(random.nextLong(), random.nextLong()) : trace;
                middle = i == events / 2 ? trace.toString() : middle;
                int lane = random.nextInt(9);
                int wait = random.nextInt(300);
                int level = random.nextInt(100);
                Draft event = new Draft()
                        .time(time)
                        .level(level == 0 ? Level.ERROR : level == 1 ? Level.WARN : Level.INFO)
                        .service(service)
                        .instance(service + "-" + (1 + random.nextInt(2)))
                        .logger("skerry." + service + ".Lanes")
                        .message("reserve lanes")
                        .trace(trace, new SpanId(random.nextLong() | 1), null)
                        .thread("pool-1-" + random.nextInt(8))
                        .sequence(i + 1)
                        .fields(f -> f.put("vehicle", "coach")
                                .put("lane", "A" + lane)
                                .put("lock_wait_ms", wait));
                more.accept(event, i);
                lines.write(event.finish(), buffer);
                if (buffer.length() >= CHUNK) {
                    buffer.writeTo(to);
                    buffer.clear();
                }
            }
            buffer.writeTo(to);
        }
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.WRITE)) {
            channel.force(true); // or the system would be writing it while it is read
        }
        return middle;
    }

    private List<Figure> measure() throws IOException, InterruptedException {
        List<Figure> figures = new ArrayList<>();
        Path small = Files.createTempFile("graphema-benchmark", ".jsonl");
        write(small, 100);
        double first = Processes.longerToFirstByte(
                LOOKS, List.of(command, "find", "--in", small.toString()), Load.command(Nothing.class));
        Files.delete(small);
        figures.add(Figure.atMost(200, PART, "first result, beyond JVM start", first, "ms"));
        figures.add(beside("ripgrep", 5, LOOKS, 1, "one trace", asking("find", "trace = " + trace), "rg", trace));
        figures.add(
                besideJq("warnings by service", asking("tally", "service", "level >= warn"), SELECT + " | .service"));
        figures.add(besideJq(
                "errors per minute",
                asking("timeline", "level >= error", "--step", "1m"),
                "select(.level==\"error\") | .time[0:16]"));
        figures.add(besideJq(
                "95th percentile by service",
                asking("tally", "service", "--of", "lock_wait_ms"),
                "[.service, .fields.lock_wait_ms] | @tsv"));
        String[] hour = {"--from", "2026-05-16T02:00Z", "--to", "2026-05-16T03:00Z"};
        Path alone = Files.createTempFile("graphema-benchmark", ".jsonl");
        try {
            new ProcessBuilder(
                            command,
                            "find",
                            "--as",
                            "json",
                            hour[0],
                            hour[1],
                            hour[2],
                            hour[3],
                            "--in",
                            file.toString())
                    .redirectOutput(alone.toFile())
                    .redirectError(ProcessBuilder.Redirect.DISCARD)
                    .start()
                    .waitFor();
            double[] both = Processes.inTurn(
                    LOOKS,
                    1,
                    asking("find", "lock_wait_ms > 290", "--limit", "50", hour[0], hour[1], hour[2], hour[3]),
                    List.of(command, "find", "lock_wait_ms > 290", "--limit", "50", "--in", alone.toString()));
            figures.add(Figure.alone(PART, "newest 50 in one hour of 44", both[0], "ms")
                    .beside("that hour as a file", both[1])
                    .within(2));
        } finally {
            Files.delete(alone);
        }
        return figures;
    }

    private Figure besideJq(String name, List<String> question, String filter)
            throws IOException, InterruptedException {
        return beside("jq", 0.04, 2, 3, name, question, "jq", "-r", filter);
    }

    /**
     * Measures a question, compared with another tool if it is installed.
     *
     * @param most the largest ratio
     */
    private Figure beside(
            String other, double most, int rounds, int times, String name, List<String> question, String... command)
            throws IOException, InterruptedException {
        if (!Processes.isInstalled(command[0])) {
            return Figure.alone(PART, name, Processes.toEnd(LOOKS, question), "ms");
        }
        List<String> asked = new ArrayList<>(List.of(command));
        asked.add(file.toString());
        double[] both = Processes.inTurn(rounds, times, question, asked);
        return Figure.alone(PART, name, both[0], "ms").beside(other, both[1]).within(most);
    }

    /** Returns the command line of a question. */
    private List<String> asking(String... question) {
        List<String> all = new ArrayList<>(List.of(command));
        all.addAll(List.of(question));
        all.addAll(List.of("--in", file.toString()));
        return all;
    }
}
