package dev.graphema.benchmarks;

import dev.graphema.event.Fields;
import dev.graphema.format.Json;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.profile.GCProfiler;
import org.openjdk.jmh.results.RunResult;
import org.openjdk.jmh.runner.Runner;
import org.openjdk.jmh.runner.RunnerException;
import org.openjdk.jmh.runner.options.OptionsBuilder;
import org.openjdk.jmh.runner.options.TimeValue;

/** Runs the calls and prints one table: each beside its limit, with the ratio, the goal and whether it is met. */
public final class Main {
    /**
     * A goal.
     *
     * @param call what is measured
     * @param limit what stands beside it; null when the goal is a time
     * @param most the highest ratio, or time in nanoseconds, that meets it
     */
    private record Goal(String call, String limit, double most) {}

    private static final List<Goal> GOALS = List.of(
            new Goal("refused", "limitVolatileReadAndCompare", 1.5),
            new Goal("accepted", "limitLineByHandAndOffer", 2),
            new Goal("acceptedDurable", "accepted", 1.5),
            new Goal("heldBack", "accepted", 1.5),
            new Goal("redaction", "limitOnePassOverText", 3),
            new Goal("samplingDecision", null, 20),
            new Goal("routeOfThreeParts", null, 40),
            new Goal("contextScope", "limitThreeEntriesInAHashMap", 1));

    private record Measured(double nanos, double bytes) {}

    private Main() {}

    /** @param arguments a file for the table as JSON lines; none for no file */
    public static void main(String[] arguments) throws RunnerException, IOException {
        Map<String, Measured> measured = new HashMap<>();
        for (RunResult result : new Runner(new OptionsBuilder()
                        .include(Calls.class.getName())
                        .mode(Mode.AverageTime)
                        .timeUnit(TimeUnit.NANOSECONDS)
                        .forks(1)
                        .warmupIterations(3)
                        .warmupTime(TimeValue.seconds(2))
                        .measurementIterations(5)
                        .measurementTime(TimeValue.seconds(2))
                        .addProfiler(GCProfiler.class)
                        .build())
                .run()) {
            String name = result.getParams().getBenchmark();
            measured.put(
                    name.substring(name.lastIndexOf('.') + 1),
                    new Measured(
                            result.getPrimaryResult().getScore(),
                            result.getSecondaryResults()
                                    .get("gc.alloc.rate.norm")
                                    .getScore()));
        }
        List<String> json = table(measured, System.out);
        if (arguments.length > 0) {
            Files.write(Path.of(arguments[0]), json);
        }
    }

    private static List<String> table(Map<String, Measured> measured, PrintStream to) {
        List<String> json = new ArrayList<>();
        to.printf("%n%-20s %10s %8s  %-28s %10s %8s %8s%n", "call", "ns", "bytes", "beside", "ns", "ratio", "at most");
        for (Goal goal : GOALS) {
            Measured call = measured.get(goal.call());
            Measured limit = goal.limit() == null ? null : measured.get(goal.limit());
            double figure = limit == null ? call.nanos() : call.nanos() / limit.nanos();
            boolean isMet = figure <= goal.most();
            to.printf(
                    "%-20s %10.1f %8.0f  %-28s %10s %8s %8s  %s%n",
                    goal.call(),
                    call.nanos(),
                    call.bytes(),
                    limit == null ? "" : goal.limit(),
                    limit == null ? "" : "%.1f".formatted(limit.nanos()),
                    limit == null ? "" : "%.2f".formatted(figure),
                    limit == null ? "%.0f ns".formatted(goal.most()) : "%.1f x".formatted(goal.most()),
                    isMet ? "met" : "NOT met");
            json.add(Json.of(Fields.of(f -> {
                f.put("call", goal.call()).put("ns", call.nanos()).put("bytes", call.bytes());
                if (limit != null) {
                    f.put("beside", goal.limit()).put("beside_ns", limit.nanos());
                }
                f.put("figure", figure).put("at_most", goal.most()).put("met", isMet);
            })));
        }
        return json;
    }
}
