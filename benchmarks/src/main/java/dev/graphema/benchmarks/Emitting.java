package dev.graphema.benchmarks;

import dev.graphema.Scope;
import dev.graphema.benchmarks.Setting.Feature;
import dev.graphema.event.Level;
import java.io.IOException;
import java.util.EnumSet;
import java.util.Set;
import org.jctools.queues.varhandle.MpscVarHandleArrayQueue;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.OperationsPerInvocation;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.TearDown;
import org.openjdk.jmh.infra.BenchmarkParams;

/**
 * Benchmarks of the call that emits an event: in bursts that fit into the queue, between which all events are written,
 * so that the call is measured and not the disk.
 */
@State(org.openjdk.jmh.annotations.Scope.Thread)
public class Emitting {
    private static final int BURST = 2_000;

    private final LineByHand line = new LineByHand();
    private final MpscVarHandleArrayQueue<byte[]> queue = new MpscVarHandleArrayQueue<>(8192);
    private Setting setting;
    private Scope surroundings;

    @Setup
    public void prepare(BenchmarkParams params) throws IOException {
        String name = params.getBenchmark();
        Set<Feature> features = features(name.substring(name.lastIndexOf('.') + 1));
        setting = new Setting(features);
        surroundings = Setting.surroundings(features);
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

    @TearDown(org.openjdk.jmh.annotations.Level.Invocation)
    public void drain() {
        queue.clear();
        setting.flush();
    }

    @TearDown
    public void end() throws IOException {
        surroundings.close();
        setting.close();
    }

    /** The line by hand, with one reading of the clock, and its offer to a queue. */
    @Benchmark
    @OperationsPerInvocation(BURST)
    public void limitLineByHandAndOffer() {
        for (int i = 0; i < BURST; i++) {
            line.write();
            queue.offer(line.bytes());
        }
    }

    @Benchmark
    @OperationsPerInvocation(BURST)
    public void accepted() {
        burst(Level.INFO);
    }

    @Benchmark
    @OperationsPerInvocation(BURST)
    public void acceptedDurable() {
        burst(Level.INFO);
    }

    @Benchmark
    @OperationsPerInvocation(BURST)
    public void heldBack() {
        burst(Level.DEBUG);
    }

    @Benchmark
    @OperationsPerInvocation(BURST)
    public void bare() {
        burst(Level.INFO);
    }

    @Benchmark
    @OperationsPerInvocation(BURST)
    public void bareWithContext() {
        burst(Level.INFO);
    }

    @Benchmark
    @OperationsPerInvocation(BURST)
    public void bareWithTrace() {
        burst(Level.INFO);
    }

    @Benchmark
    @OperationsPerInvocation(BURST)
    public void bareWithRedaction() {
        burst(Level.INFO);
    }

    @Benchmark
    @OperationsPerInvocation(BURST)
    public void bareWithSampling() {
        burst(Level.INFO);
    }

    @Benchmark
    @OperationsPerInvocation(BURST)
    public void bareWithRoute() {
        burst(Level.INFO);
    }

    @Benchmark
    @OperationsPerInvocation(BURST)
    public void bareDurable() {
        burst(Level.INFO);
    }

    private void burst(Level level) {
        for (int i = 0; i < BURST; i++) {
            setting.emit(level);
        }
    }
}
