package dev.graphema.benchmarks;

import dev.graphema.event.Draft;
import dev.graphema.event.Level;
import dev.graphema.event.SpanId;
import dev.graphema.event.Times;
import dev.graphema.event.TraceId;
import dev.graphema.format.JsonLines;
import dev.graphema.format.Utf8Buffer;
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

/** The command over a file of so many events, as whole processes, beside other tools that are asked the same, where they are installed. */
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

    /** @param command starts the command line */
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

    /** How long a tally of all events takes, for a file of so many. */
    static Figure tally(String command, long events) throws IOException, InterruptedException {
        Path file = Files.createTempFile("graphema-benchmark", ".jsonl");
        try {
            Finding finding = new Finding(command, file, events);
            return Figure.alone(PART, "tally by service of " + events, finding.ask("tally", "service"), "ms");
        } finally {
            Files.delete(file);
        }
    }

    /** Events of one day and some of the next, eight of a trace. @return a trace in the middle */
    private static String write(Path file, long events) throws IOException {
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
                lines.write(
                        new Draft()
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
                                        .put("lock_wait_ms", wait))
                                .finish(),
                        buffer);
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
        String java = Path.of(System.getProperty("java.home"), "bin", "java").toString();
        double nothing = Processes.medianMillis(
                LOOKS,
                List.of(
                        java,
                        "-XX:+UseSerialGC",
                        "-cp",
                        System.getProperty("java.class.path"),
                        Nothing.class.getName()));
        Path small = Files.createTempFile("graphema-benchmark", ".jsonl");
        write(small, 100);
        double first = Processes.medianMillis(LOOKS, List.of(command, "find", "--in", small.toString()));
        Files.delete(small);
        figures.add(Figure.atMost(200, PART, "first result, beyond JVM start", first - nothing, "ms"));
        Figure oneTrace = figure("one trace", ask("find", "trace = " + trace));
        figures.add(
                Processes.isInstalled("rg")
                        ? oneTrace.beside("ripgrep", tool(LOOKS, "rg", trace)).within(5)
                        : oneTrace);
        boolean hasJq = Processes.isInstalled("jq");
        figures.add(besideJq(
                hasJq,
                figure("warnings by service", ask("tally", "service", "level >= warn")),
                SELECT + " | .service"));
        figures.add(besideJq(
                hasJq,
                figure("errors per minute", ask("timeline", "level >= error", "--step", "1m")),
                "select(.level==\"error\") | .time[0:16]"));
        figures.add(besideJq(
                hasJq,
                figure("95th percentile by service", ask("tally", "service", "--of", "lock_wait_ms")),
                "[.service, .fields.lock_wait_ms] | @tsv"));
        String[] hour = {"--from", "2026-05-16T02:00Z", "--to", "2026-05-16T03:00Z"};
        double within = ask("find", "lock_wait_ms > 290", "--limit", "50", hour[0], hour[1], hour[2], hour[3]);
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
            double read = Processes.medianMillis(
                    LOOKS, List.of(command, "find", "lock_wait_ms > 290", "--limit", "50", "--in", alone.toString()));
            figures.add(figure("newest 50 in one hour of 44", within)
                    .beside("that hour as a file", read)
                    .within(2));
        } finally {
            Files.delete(alone);
        }
        return figures;
    }

    private Figure besideJq(boolean hasJq, Figure figure, String filter) throws IOException, InterruptedException {
        return hasJq ? figure.beside("jq", tool(1, "jq", "-r", filter)).within(0.04) : figure;
    }

    private static Figure figure(String name, double millis) {
        return Figure.alone(PART, name, millis, "ms");
    }

    private double ask(String... question) throws IOException, InterruptedException {
        return tool(LOOKS, command, question, "--in");
    }

    private double tool(int times, String tool, String... arguments) throws IOException, InterruptedException {
        return tool(times, tool, arguments, null);
    }

    private double tool(int times, String tool, String[] arguments, String option)
            throws IOException, InterruptedException {
        List<String> all = new ArrayList<>(List.of(tool));
        all.addAll(List.of(arguments));
        if (option != null) {
            all.add(option);
        }
        all.add(file.toString());
        return Processes.medianMillis(times, all);
    }
}
