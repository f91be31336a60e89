package dev.graphema.benchmarks;

import dev.graphema.query.Question;
import dev.graphema.query.Window;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.remote.RemoteSource;
import java.io.BufferedReader;
import java.io.File;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.net.ServerSocket;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.Stream;

/**
 * A collector, as the command starts it, that receives events at half of its rate and is asked every second, for a long
 * time, and at the end what needs much memory. Old events are deleted by a rule. Prints a line for each minute; the figures compare the last quarter with the first one.
 */
final class Endurance {
    private static final String PART = "endurance";
    private static final int SENDERS = 4;
    private static final int PER_SECOND = 30_000;
    private static final int LINES = 100;
    private static final int SENT_AHEAD = 64;
    private static final double MOST_MEGABYTES = 512;

    private final List<Minute> minutes = new ArrayList<>();

    private record Minute(long events, double megabytes, long files, double slowest) {}

    static List<Figure> figures(String command, int count) throws Exception {
        Path folder = Files.createTempDirectory("graphema-endurance");
        Files.createDirectory(folder.resolve("store"));
        Files.writeString(folder.resolve("store/rules.yaml"), "retention:\n  - {total: 1GB}\n");
        int port;
        try (ServerSocket free = new ServerSocket(0)) {
            port = free.getLocalPort();
        }
        ProcessBuilder builder = new ProcessBuilder(
                command, "collect", "--store", folder.resolve("store").toString(), "--port", Integer.toString(port));
        Process process = builder.redirectErrorStream(true).start();
        try {
            BufferedReader output = new BufferedReader(new InputStreamReader(process.getInputStream()));
            String line;
            while ((line = output.readLine()) != null && !line.contains("to watch")) {
                // on until it listens
            }
            Thread reader = new Thread(() -> pass(output));
            reader.setDaemon(true);
            reader.start();
            Endurance endurance = new Endurance();
            endurance.run(process, port, count);
            List<Figure> figures = new ArrayList<>(endurance.compared());
            if (!LargeRequests.passes(URI.create("http://127.0.0.1:" + port))) {
                throw new IllegalStateException("the collector does not answer any more");
            }
            figures.add(Figure.alone(PART, "most memory of the process", memory(process.pid(), "VmHWM"), "MB")
                    .beside("allowed", MOST_MEGABYTES)
                    .within(1));
            return figures;
        } finally {
            process.destroy();
            process.waitFor(90, TimeUnit.SECONDS);
            try (Stream<Path> files = Files.walk(folder)) {
                files.sorted(Comparator.reverseOrder()).map(Path::toFile).forEach(File::delete);
            }
        }
    }

    private static void pass(BufferedReader output) {
        try {
            output.lines().forEach(System.err::println);
        } catch (UncheckedIOException e) {
            // the collector has ended
        }
    }

    private void run(Process process, int port, int count) throws Exception {
        AtomicLong sent = new AtomicLong();
        long begin = System.nanoTime();
        long end = begin + TimeUnit.MINUTES.toNanos(count);
        List<Thread> senders = new ArrayList<>();
        for (int i = 0; i < SENDERS; i++) {
            int sender = i;
            senders.add(new Thread(() -> send(port, sender, sent, begin, end)));
            senders.get(i).start();
        }
        EventSource source = RemoteSource.at(URI.create("http://127.0.0.1:" + port), null);
        for (int minute = 0; minute < count; minute++) {
            long before = sent.get();
            double slowest = 0;
            long minuteEnd = begin + TimeUnit.MINUTES.toNanos(minute + 1);
            while (System.nanoTime() < minuteEnd) {
                long asked = System.nanoTime();
                Instant now = Instant.now();
                CountTable table = QueryExecutor.answer(
                        Question.where("level >= info")
                                .during(Window.between(now.minus(Duration.ofSeconds(10)), now.plusSeconds(60)))
                                .counts("lane"),
                        source);
                double took = (System.nanoTime() - asked) / 1e6;
                if (table.rows().isEmpty() && minute > 0) {
                    throw new IllegalStateException(table.coverage().toString());
                }
                slowest = Math.max(slowest, took);
                TimeUnit.MILLISECONDS.sleep(Math.max(0, 1000 - (long) took));
            }
            Minute measured =
                    new Minute(sent.get() - before, memory(process.pid(), "VmRSS"), files(process.pid()), slowest);
            minutes.add(measured);
            System.err.printf(
                    "minute %3d: %,9d events, %5.0f MB, %4d files, slowest answer %6.0f ms%n",
                    minute + 1, measured.events(), measured.megabytes(), measured.files(), measured.slowest());
        }
        for (Thread each : senders) {
            each.join();
        }
    }

    private static void send(int port, int sender, AtomicLong sent, long begin, long end) {
        try {
            Collecting.HttpSender http =
                    new Collecting.HttpSender(port, "/lines", "text/plain", Collecting.zippedBodies(SENT_AHEAD));
            long between = TimeUnit.SECONDS.toNanos(1) * LINES * SENDERS / PER_SECOND;
            for (int i = 0; System.nanoTime() < end; i++) {
                if (i % SENT_AHEAD == 0) {
                    http.renew(Collecting.zippedBodies(SENT_AHEAD)); // with the present time
                }
                http.send(i);
                sent.addAndGet(LINES);
                long next = begin + sender * between / SENDERS + i * between;
                TimeUnit.NANOSECONDS.sleep(Math.max(0, next - System.nanoTime()));
            }
        } catch (IOException | InterruptedException e) {
            throw new IllegalStateException(e);
        }
    }

    private static double memory(long pid, String which) throws IOException {
        return Files.readAllLines(Path.of("/proc/" + pid + "/status")).stream()
                .filter(line -> line.startsWith(which))
                .mapToDouble(line -> Double.parseDouble(line.replaceAll("[^0-9]", "")) / 1024)
                .findAny()
                .orElse(Double.NaN);
    }

    private static long files(long pid) throws IOException {
        try (Stream<Path> files = Files.list(Path.of("/proc/" + pid + "/fd"))) {
            return files.count();
        }
    }

    private List<Figure> compared() {
        int quarter = Math.max(1, minutes.size() / 4);
        List<Minute> first = minutes.subList(Math.min(1, minutes.size() - 1), Math.min(minutes.size(), 1 + quarter));
        List<Minute> last = minutes.subList(minutes.size() - quarter, minutes.size());
        return List.of(
                figure(
                        "memory of the last quarter",
                        "MB",
                        last,
                        first,
                        1.1,
                        Comparator.comparingDouble(Minute::megabytes)),
                figure("open files", "", last, first, 1.5, Comparator.comparingDouble(Minute::files)),
                figure("slowest answer", "ms", last, first, 1.5, Comparator.comparingDouble(Minute::slowest)),
                Figure.alone(
                        PART,
                        "events",
                        minutes.stream().mapToLong(Minute::events).sum(),
                        "in " + minutes.size() + " min"));
    }

    private static Figure figure(
            String name, String unit, List<Minute> last, List<Minute> first, double goal, Comparator<Minute> by) {
        return Figure.alone(PART, name, value(last.stream().max(by).orElseThrow(), unit), unit)
                .beside("of the first quarter", value(first.stream().max(by).orElseThrow(), unit))
                .within(goal);
    }

    private static double value(Minute minute, String unit) {
        return unit.equals("MB") ? minute.megabytes() : unit.equals("ms") ? minute.slowest() : minute.files();
    }
}
