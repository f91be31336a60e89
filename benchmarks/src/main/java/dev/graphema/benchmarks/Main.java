package dev.graphema.benchmarks;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.results.RunResult;
import org.openjdk.jmh.runner.Runner;
import org.openjdk.jmh.runner.RunnerException;
import org.openjdk.jmh.runner.options.OptionsBuilder;
import org.openjdk.jmh.runner.options.TimeValue;
import org.openjdk.jmh.runner.options.VerboseMode;

/**
 * Runs the benchmarks and prints a table: each figure with its lower bound in the same run, the ratio, the goal and the
 * result.
 */
public final class Main {
    private static final String COMMAND = "graphema.command";
    private static final long EVENTS = 2_000_000;
    private static final int ROUNDS = 3;
    private static final long[] SCALE = {10_000, 100_000, 1_000_000, 10_000_000};

    private Main() {}

    /**
     * @param arguments {@code --calls}, {@code --load}, {@code --finding}, {@code --segments}, {@code --collector}, {@code --endurance} or {@code --scaling} for one part; and a file
     *     for the table as JSON lines
     */
    public static void main(String[] arguments) throws Exception {
        List<String> parts = new ArrayList<>(List.of(arguments));
        parts.removeIf(argument -> !argument.startsWith("--"));
        List<Figure> figures = new ArrayList<>();
        if (parts.isEmpty() || parts.contains("--calls")) {
            announce("calls");
            figures.addAll(calls());
        }
        if (parts.isEmpty() || parts.contains("--load")) {
            announce("load");
            figures.addAll(Load.figures());
        }
        String command = System.getProperty(COMMAND);
        if (parts.isEmpty() || parts.contains("--finding")) {
            announce("finding");
            figures.addAll(Finding.figures(command, EVENTS));
        }
        if (parts.contains("--segments")) {
            announce("segments");
            figures.addAll(Segments.figures(command, Long.getLong("events", EVENTS)));
        }
        if (parts.contains("--collector")) {
            announce("the collector");
            figures.addAll(Collecting.figures());
        }
        if (parts.contains("--endurance")) {
            announce("a collector in the long run");
            figures.addAll(Endurance.figures(command, Integer.getInteger("minutes", 60)));
        }
        if (parts.contains("--scaling")) {
            announce("threads");
            figures.addAll(Load.threads(2, 4, 8));
            for (long events : SCALE) {
                announce("finding in " + events + " events");
                figures.add(Finding.tally(command, events));
            }
        }
        System.out.println();
        System.out.println(Figure.HEADING);
        figures.forEach(System.out::println);
        for (String argument : arguments) {
            if (!argument.startsWith("--")) {
                Files.write(
                        Path.of(argument), figures.stream().map(Figure::toJson).toList());
            }
        }
    }

    private static void announce(String part) {
        System.err.println("measuring " + part);
    }

    /**
     * Returns the best second of each call in three rounds. What others do on the machine makes a call slower, never
     * faster, and lasts for seconds or minutes; and the result of the JIT compiler differs from process to process.
     */
    private static Map<String, Figure> bestCalls() throws RunnerException {
        Map<String, Figure> best = new HashMap<>();
        for (int round = 0; round < ROUNDS; round++) {
            for (RunResult result : new Runner(new OptionsBuilder()
                            .include(Calls.class.getName())
                            .mode(Mode.AverageTime)
                            .timeUnit(TimeUnit.NANOSECONDS)
                            .forks(1)
                            .warmupIterations(2)
                            .warmupTime(TimeValue.seconds(1))
                            .measurementIterations(2)
                            .measurementTime(TimeValue.seconds(1))
                            .verbosity(VerboseMode.SILENT)
                            .build())
                    .run()) {
                String name = result.getParams().getBenchmark();
                String simple = name.substring(name.lastIndexOf('.') + 1);
                double fastest = result.getPrimaryResult().getStatistics().getMin();
                best.merge(
                        simple,
                        Figure.alone("call", simple, fastest, "ns"),
                        (one, other) -> one.value() <= other.value() ? one : other);
            }
        }
        return best;
    }

    private static List<Figure> calls() throws RunnerException, IOException, InterruptedException {
        Map<String, Figure> all = bestCalls();
        all.putAll(Emitting.figures());
        List<Figure> figures = new ArrayList<>();
        figures.add(all.get("refused")
                .beside(all.get("limitVolatileReadAndCompare"))
                .within(1.5));
        Figure byHand = all.get(Emitting.BY_HAND);
        Figure accepted = all.get("accepted");
        figures.add(accepted.beside(byHand).within(2));
        figures.add(all.get("acceptedDurable").beside(accepted).within(1.5));
        figures.add(all.get("heldBack").beside(accepted));
        figures.add(all.get("redaction").beside(all.get("limitOnePassOverText")).within(3));
        figures.add(goal(all.get("samplingDecision"), 20));
        figures.add(goal(all.get("routeOfThreeParts"), 40));
        figures.add(all.get("contextScope")
                .beside(all.get("limitThreeEntriesInAHashMap"))
                .within(1));
        Figure bare = all.get("bare");
        figures.add(bare.beside(byHand));
        for (String more : List.of(
                "bareWithContext",
                "bareWithTrace",
                "bareWithRedaction",
                "bareWithSampling",
                "bareWithRoute",
                "bareDurable")) {
            figures.add(all.get(more).beside(bare));
        }
        Figure json = all.get("writeJson");
        figures.add(json);
        for (String format : List.of("writeColumns", "writeKeyValue", "writeSyslog", "writeOtlp")) {
            figures.add(all.get(format).beside(json));
        }
        return figures;
    }

    private static Figure goal(Figure figure, double nanos) {
        return Figure.atMost(nanos, figure.part(), figure.name(), figure.value(), figure.unit());
    }
}
