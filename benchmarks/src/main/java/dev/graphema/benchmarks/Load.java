package dev.graphema.benchmarks;

import com.sun.management.ThreadMXBean;
import dev.graphema.Scope;
import dev.graphema.benchmarks.Setting.Feature;
import dev.graphema.event.Level;
import java.io.IOException;
import java.io.PrintStream;
import java.lang.management.ManagementFactory;
import java.math.BigDecimal;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.concurrent.locks.LockSupport;
import java.util.function.IntConsumer;
import org.HdrHistogram.Histogram;

/** Benchmarks of longer runs and of several threads: throughput, latency, CPU time, memory. */
final class Load {
    private static final String PART = "load";
    private static final long SECONDS = 1_000_000_000L;
    private static final long RUN_NANOS = 4 * SECONDS;
    private static final int CHUNK = 64 * 1024;
    private static final int EVENTS_A_SECOND = 100_000;
    private static final int EVENTS_OF_A_THREAD = 200_000;
    private static final int TOGETHER = 100;
    private static final int LOOKS = 9;
    private static final ThreadMXBean THREADS = (ThreadMXBean) ManagementFactory.getThreadMXBean();

    private Load() {}

    static List<Figure> figures() throws IOException, InterruptedException {
        List<Figure> figures = new ArrayList<>();
        figures.addAll(allocation());
        figures.addAll(sustained());
        figures.addAll(latency());
        figures.addAll(threads(2, 8));
        figures.add(memory());
        figures.add(start());
        return figures;
    }

    /** Measures the bytes that a calling thread allocates for an event. */
    private static List<Figure> allocation() throws IOException {
        List<Figure> figures = new ArrayList<>();
        for (String name : List.of("accepted", "acceptedDurable", "heldBack")) {
            Set<Feature> features = Emitting.features(name);
            Level level = name.equals("heldBack") ? Level.DEBUG : Level.INFO;
            try (Setting setting = new Setting(features)) {
                Scope surroundings = Setting.surroundings(features);
                long bytes = 0;
                for (int burst = 0; burst < 200; burst++) {
                    long before = THREADS.getCurrentThreadAllocatedBytes();
                    for (int i = 0; i < 1_000; i++) {
                        setting.emit(level);
                    }
                    bytes = THREADS.getCurrentThreadAllocatedBytes() - before;
                    setting.flush();
                }
                surroundings.close();
                figures.add(Figure.atMost(name.equals("accepted") ? 64 : Double.NaN, PART, name, bytes / 1_000.0, "B"));
            }
        }
        return figures;
    }

    /** Measures events per second from one thread into a file of JSON lines, without loss. */
    private static List<Figure> sustained() throws IOException {
        double byHand = byHand();
        double printed = printed();
        try (Setting setting = new Setting(Setting.USUAL)) {
            Scope surroundings = Setting.surroundings(Setting.USUAL);
            double best = 0;
            for (int round = 0; round < 3; round++) {
                long begin = System.nanoTime();
                long events = 0;
                while (System.nanoTime() - begin < RUN_NANOS) {
                    for (int i = 0; i < TOGETHER; i++) {
                        setting.emit(Level.WARN); // waits for room, and is not shed
                    }
                    events += TOGETHER;
                }
                setting.flush();
                best = Math.max(best, events * 1e9 / (System.nanoTime() - begin));
            }
            surroundings.close();
            if (setting.lost() > 0) {
                throw new IllegalStateException(setting.lost() + " events were lost");
            }
            Figure sustained = Figure.alone(PART, "sustained, none lost", best, "events/s");
            return List.of(
                    sustained.beside("lines by hand, written by 64 KiB", byHand).atLeast(0.4),
                    sustained.beside("println of a concatenated text", printed).atLeast(5));
        }
    }

    private static double byHand() throws IOException {
        Path file = Files.createTempFile("graphema-benchmark", ".jsonl");
        LineByHand line = new LineByHand();
        ByteBuffer chunk = ByteBuffer.allocateDirect(CHUNK);
        long lines = 0;
        long begin = System.nanoTime();
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.WRITE)) {
            while (System.nanoTime() - begin < RUN_NANOS) {
                for (int i = 0; i < TOGETHER; i++) {
                    int length = line.write();
                    if (chunk.remaining() < length) {
                        channel.write(chunk.flip());
                        chunk.clear();
                    }
                    chunk.put(line.bytes(), 0, length);
                }
                lines += TOGETHER;
            }
        }
        long nanos = System.nanoTime() - begin;
        Files.delete(file);
        return lines * 1e9 / nanos;
    }

    private static double printed() throws IOException {
        Path file = Files.createTempFile("graphema-benchmark", ".log");
        long lines = 0;
        long begin = System.nanoTime();
        try (PrintStream to = new PrintStream(Files.newOutputStream(file), false, StandardCharsets.UTF_8)) {
            while (System.nanoTime() - begin < RUN_NANOS) {
                for (int i = 0; i < TOGETHER; i++) {
                    to.println(Instant.now() + " info deck deck-1 skerry.deck.Lanes lane taken lane=" + "A3"
                            + " lock_wait_ms=" + i + " vehicle=" + "coach" + " length_m=" + 12.5 + " booking="
                            + "B0047113" + " sailing=" + "SK-204" + " tenant=" + "skerry"
                            + " trace=4bf92f3577b34da6a3ce929d0e0e4736");
                }
                lines += TOGETHER;
            }
        }
        long nanos = System.nanoTime() - begin;
        Files.delete(file);
        return lines * 1e9 / nanos;
    }

    /**
     * Measures latencies at a rate of events, from the time at which each was due, so that a pause counts for all
     * events that it delays.
     */
    private static List<Figure> latency() throws IOException {
        Histogram empty = paced(i -> {});
        try (Setting setting = new Setting(Setting.USUAL)) {
            Scope surroundings = Setting.surroundings(Setting.USUAL);
            paced(i -> setting.emit(Level.INFO));
            Histogram calls = paced(i -> setting.emit(Level.INFO));
            surroundings.close();
            List<Figure> figures = new ArrayList<>();
            for (double percentile : new double[] {50, 99, 99.9, 99.99}) {
                Figure figure = Figure.alone(
                                PART,
                                "latency at 100,000/s, p"
                                        + BigDecimal.valueOf(percentile)
                                                .stripTrailingZeros()
                                                .toPlainString(),
                                calls.getValueAtPercentile(percentile),
                                "ns")
                        .beside("empty loop", empty.getValueAtPercentile(percentile));
                figures.add(percentile == 99.9 ? figure.within(5) : figure);
            }
            return figures;
        }
    }

    private static Histogram paced(IntConsumer call) {
        Histogram histogram = new Histogram(60 * SECONDS, 3);
        long every = SECONDS / EVENTS_A_SECOND;
        long due = System.nanoTime();
        for (int i = 0; i < 5 * EVENTS_A_SECOND; i++) {
            due += every;
            while (System.nanoTime() < due) {
                Thread.onSpinWait();
            }
            call.accept(i);
            histogram.recordValue(Math.max(0, System.nanoTime() - due));
        }
        return histogram;
    }

    /** Measures the CPU time of an event on several threads, a hundred at a time with pauses. */
    static List<Figure> threads(int... counts) throws IOException, InterruptedException {
        List<Figure> figures = new ArrayList<>();
        try (Setting setting = new Setting(Setting.USUAL)) {
            cpuTime(1, setting);
            double one = cpuTime(1, setting);
            figures.add(Figure.alone(PART, "CPU time of an event, 1 thread", one, "ns"));
            for (int count : counts) {
                figures.add(
                        Figure.alone(PART, "CPU time of an event, " + count + " threads", cpuTime(count, setting), "ns")
                                .beside("1 thread", one)
                                .within(1.3));
            }
        }
        return figures;
    }

    private static double cpuTime(int count, Setting setting) throws InterruptedException {
        long[] nanos = new long[count];
        List<Thread> threads = new ArrayList<>();
        for (int t = 0; t < count; t++) {
            int place = t;
            threads.add(new Thread(() -> {
                try (Scope surroundings = Setting.surroundings(Setting.USUAL)) {
                    long begin = THREADS.getCurrentThreadCpuTime();
                    for (int i = 0; i < EVENTS_OF_A_THREAD / TOGETHER; i++) {
                        for (int k = 0; k < TOGETHER; k++) {
                            setting.emit(Level.INFO);
                        }
                        LockSupport.parkNanos(500_000L * count);
                    }
                    nanos[place] = THREADS.getCurrentThreadCpuTime() - begin;
                }
            }));
        }
        for (Thread thread : threads) {
            thread.start();
        }
        long sum = 0;
        for (int t = 0; t < count; t++) {
            threads.get(t).join();
            sum += nanos[t];
        }
        setting.flush();
        return (double) sum / count / EVENTS_OF_A_THREAD;
    }

    /** Measures the memory of an idle runtime with one file sink, in a process of its own. */
    private static Figure memory() throws IOException, InterruptedException {
        Process process = new ProcessBuilder(java(), "-cp", System.getProperty("java.class.path"), Idle.class.getName())
                .redirectError(ProcessBuilder.Redirect.DISCARD)
                .start();
        String bytes = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8).strip();
        process.waitFor();
        return Figure.atMost(8, PART, "memory of an idle runtime", Long.parseLong(bytes) / 1e6, "MB");
    }

    /** Returns the path of the command that starts a JVM like this one. */
    static String java() {
        return Path.of(System.getProperty("java.home"), "bin", "java").toString();
    }

    /** Measures the time from the start of a JVM until an event is written, minus that of an empty program. */
    private static Figure start() throws IOException, InterruptedException {
        Path folder = Files.createTempDirectory("graphema-benchmark");
        double longer = Processes.longerToFirstByte(
                LOOKS, command(FirstEvent.class, folder.toString()), command(Nothing.class));
        Setting.delete(folder);
        return Figure.atMost(150, PART, "first event written, beyond JVM start", longer, "ms");
    }

    /** Returns the command line that runs a class of this module. */
    static List<String> command(Class<?> main, String... arguments) {
        List<String> command = new ArrayList<>(
                List.of(java(), "-XX:+UseSerialGC", "-cp", System.getProperty("java.class.path"), main.getName()));
        command.addAll(List.of(arguments));
        return command;
    }
}
