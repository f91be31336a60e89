package dev.graphema.benchmarks;

import dev.graphema.Scope;
import dev.graphema.benchmarks.Setting.Feature;
import dev.graphema.event.Level;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jctools.queues.varhandle.MpscVarHandleArrayQueue;

/**
 * Benchmarks of the call that emits an event, in turns with the line by hand: a burst of one and a burst of the other, so
 * that what others do on the machine affects both. Everything is written between bursts, so that the call is measured and
 * not the disk. Each runs in processes of its own, because the result of the JIT compiler differs from process to process.
 */
final class Emitting {
    static final String BY_HAND = "line by hand, and an offer to a queue";

    private static final List<String> NAMES = List.of(
            "accepted",
            "acceptedDurable",
            "heldBack",
            "bare",
            "bareWithContext",
            "bareWithTrace",
            "bareWithRedaction",
            "bareWithSampling",
            "bareWithRoute",
            "bareDurable");

    private static final int PROCESSES = 3;
    private static final int BURST = 2_000;
    private static final int WARM_UP = 500;
    private static final int MEASURED = 500;

    private final LineByHand line = new LineByHand();
    private final MpscVarHandleArrayQueue<byte[]> queue = new MpscVarHandleArrayQueue<>(8192);

    private Emitting() {}

    /**
     * Measures all calls.
     *
     * @return by name, in nanoseconds: the median of the line by hand, and for each call that time multiplied by the median of
     *     its ratios to it
     */
    static Map<String, Figure> figures() throws IOException, InterruptedException {
        Map<String, List<Double>> ratios = new HashMap<>();
        List<Double> byHand = new ArrayList<>();
        for (int process = 0; process < PROCESSES; process++) {
            for (String name : NAMES) {
                String[] printed = inProcess(name).split(" ");
                byHand.add(Double.parseDouble(printed[0]));
                ratios.computeIfAbsent(name, key -> new ArrayList<>()).add(Double.parseDouble(printed[1]));
            }
        }
        double limit = Processes.median(byHand);
        Map<String, Figure> figures = new HashMap<>();
        figures.put(BY_HAND, Figure.alone("call", BY_HAND, limit, "ns"));
        ratios.forEach(
                (name, all) -> figures.put(name, Figure.alone("call", name, limit * Processes.median(all), "ns")));
        return figures;
    }

    private static String inProcess(String name) throws IOException, InterruptedException {
        Process process = new ProcessBuilder(
                        Load.java(), "-cp", System.getProperty("java.class.path"), Emitting.class.getName(), name)
                .redirectError(ProcessBuilder.Redirect.INHERIT)
                .start();
        String printed = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8).strip();
        if (process.waitFor() != 0) {
            throw new IllegalStateException("the benchmark " + name + " failed");
        }
        return printed;
    }

    /**
     * Prints the median time of the line by hand, and the median ratio of the call to it.
     *
     * @param arguments the name of the call
     */
    public static void main(String[] arguments) throws IOException {
        String name = arguments[0];
        Emitting emitting = new Emitting();
        double[] byHand = new double[MEASURED];
        double[] ratios = new double[MEASURED];
        try (Setting setting = new Setting(features(name))) {
            Scope surroundings = Setting.surroundings(features(name));
            Level level = name.equals("heldBack") ? Level.DEBUG : Level.INFO;
            for (int i = -WARM_UP; i < MEASURED; i++) {
                double limit = emitting.byHand();
                double call = emit(setting, level);
                setting.flush();
                if (i >= 0) {
                    byHand[i] = limit;
                    ratios[i] = call / limit;
                }
            }
            surroundings.close();
        }
        Arrays.sort(byHand);
        Arrays.sort(ratios);
        System.out.println(byHand[MEASURED / 2] + " " + ratios[MEASURED / 2]);
    }

    /** Returns the nanoseconds of a line by hand, with one reading of the clock, and its offer to a queue. */
    private double byHand() {
        long begin = System.nanoTime();
        for (int i = 0; i < BURST; i++) {
            line.write();
            queue.offer(line.bytes());
        }
        long nanos = System.nanoTime() - begin;
        queue.clear();
        return (double) nanos / BURST;
    }

    private static double emit(Setting setting, Level level) {
        long begin = System.nanoTime();
        for (int i = 0; i < BURST; i++) {
            setting.emit(level);
        }
        return (double) (System.nanoTime() - begin) / BURST;
    }

    static Set<Feature> features(String benchmark) {
        Set<Feature> features = EnumSet.noneOf(Feature.class);
        switch (benchmark) {
            case "bare" -> {}
            case "bareWithContext" -> features.add(Feature.CONTEXT);
            case "bareWithTrace" -> features.add(Feature.TRACE);
            case "bareWithRedaction" -> features.add(Feature.REDACTION);
            case "bareWithSampling" -> features.add(Feature.SAMPLING);
            case "bareWithRoute" -> features.add(Feature.ROUTE);
            case "bareDurable" -> features.add(Feature.DURABLE);
            case "acceptedDurable" -> {
                features.addAll(Setting.USUAL);
                features.add(Feature.DURABLE);
            }
            case "heldBack" -> {
                features.addAll(Setting.USUAL);
                features.add(Feature.HOLD_BACK);
            }
            default -> features.addAll(Setting.USUAL);
        }
        return features;
    }
}
