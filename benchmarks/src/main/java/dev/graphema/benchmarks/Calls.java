package dev.graphema.benchmarks;

import dev.graphema.Context;
import dev.graphema.Correlation;
import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.Scope;
import dev.graphema.condition.Condition;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.event.TraceId;
import dev.graphema.holdback.HoldBackRule;
import dev.graphema.redaction.Redactor;
import dev.graphema.sampling.Sampler;
import dev.graphema.sampling.SamplingRule;
import dev.graphema.settings.RedactionSettings;
import dev.graphema.settings.SinkSettings;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ThreadLocalRandom;
import org.jctools.queues.varhandle.MpscVarHandleArrayQueue;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.TearDown;

/** One call each: what Graphema does, and what stands beside it as the limit. */
@State(org.openjdk.jmh.annotations.Scope.Thread)
public class Calls {
    private static final String TEXT_WITHOUT_SECRET =
            "the vehicle deck has room for a coach of twelve metres in lane A3, sailing SK-204, 38 passengers aboard";

    private volatile int threshold = Level.INFO.severity();
    private Path folder;
    private Graphema graphema;
    private Logger log;
    private Scope trace;
    private Scope context;
    private Redactor redactor;
    private Sampler sampler;
    private Draft draft;
    private Condition route;
    private Event event;
    private Map<String, Object> map;
    private MpscVarHandleArrayQueue<byte[]> queue;
    private Thread drain;
    private byte[] line;

    /** How the runtime is set up; what a benchmark does not ask for does not run beside it. */
    private void start(boolean durable, boolean holds) throws IOException {
        folder = Files.createTempDirectory("graphema-benchmark");
        SinkSettings file = SinkSettings.file(folder.resolve("log.jsonl")).durable(durable);
        graphema = Graphema.build(settings -> {
            settings.service("deck")
                    .instance("deck-1")
                    .spoolPath(folder.resolve("spool"))
                    .sink("log", file);
            if (holds) {
                settings.level(Level.DEBUG).holdBack(HoldBackRule.USUAL);
            }
        });
        log = Logger.named("skerry.deck.Lanes");
        trace = Correlation.begin();
        context = Context.open(
                f -> f.put("booking", "B0047113").put("sailing", "SK-204").put("tenant", "skerry"));
    }

    @Setup
    public void prepare(org.openjdk.jmh.infra.BenchmarkParams params) throws IOException {
        String name = params.getBenchmark();
        start(name.endsWith("acceptedDurable"), name.endsWith("heldBack"));
        redactor = RedactionSettings.USUAL.redactor();
        sampler = new Sampler(
                List.of(new SamplingRule(Condition.parse("logger = skerry.gate"), 20, true)),
                () -> ThreadLocalRandom.current().nextLong());
        draft = new Draft().level(Level.INFO).logger("skerry.gate").message("m").trace(new TraceId(1, 2), null, null);
        route = Condition.parse("level >= warn and service = deck and lock_wait_ms > 250");
        event = new Draft()
                .level(Level.WARN)
                .service("deck")
                .logger("skerry.deck")
                .message("lane not free")
                .fields(f -> f.put("lane", "A3").put("lock_wait_ms", 300))
                .finish();
        map = new HashMap<>();
        queue = new MpscVarHandleArrayQueue<>(8192);
        line = new byte[512];
        drain = new Thread(() -> {
            while (!Thread.currentThread().isInterrupted()) {
                if (queue.poll() == null) {
                    Thread.onSpinWait();
                }
            }
        });
        drain.setDaemon(true);
        if (name.endsWith("lineByHandAndOffer")) {
            drain.start();
        }
    }

    @TearDown
    public void end() throws IOException {
        drain.interrupt();
        context.close();
        trace.close();
        graphema.close();
        try (var files = Files.walk(folder)) {
            files.sorted(java.util.Comparator.reverseOrder())
                    .forEach(file -> file.toFile().delete());
        }
    }

    @Benchmark
    public boolean limitVolatileReadAndCompare() {
        return Level.DEBUG.severity() >= threshold;
    }

    @Benchmark
    public void refused() {
        log.debug("lane taken", f -> f.put("lane", "A3").put("lock_wait_ms", 2));
    }

    /** The line that the file gets, with one clock read, and its offer to a queue that another thread empties. */
    @Benchmark
    public boolean limitLineByHandAndOffer() {
        int at = text(0, "{\"time\":\"");
        at = number(at, System.currentTimeMillis());
        at = text(
                at,
                "\",\"level\":\"info\",\"service\":\"deck\",\"instance\":\"deck-1\",\"logger\":\"skerry.deck.Lanes\",\"message\":\"lane taken\","
                        + "\"trace\":\"4bf92f3577b34da6a3ce929d0e0e4736\",\"fields\":{\"lane\":\"");
        at = text(at, "A3");
        at = text(at, "\",\"lock_wait_ms\":");
        at = number(at, 2);
        at = text(
                at,
                ",\"vehicle\":\"coach\",\"length_m\":12.5,\"booking\":\"B0047113\",\"sailing\":\"SK-204\",\"tenant\":\"skerry\"}}\n");
        return queue.offer(line);
    }

    private int text(int at, String text) {
        for (int i = 0; i < text.length(); i++) {
            line[at + i] = (byte) text.charAt(i);
        }
        return at + text.length();
    }

    private int number(int at, long number) {
        int digits = 1;
        for (long rest = number; rest >= 10; rest /= 10) {
            digits++;
        }
        long rest = number;
        for (int i = at + digits - 1; i >= at; i--) {
            line[i] = (byte) ('0' + rest % 10);
            rest /= 10;
        }
        return at + digits;
    }

    @Benchmark
    public void accepted() {
        say(Level.INFO);
    }

    @Benchmark
    public void acceptedDurable() {
        say(Level.INFO);
    }

    @Benchmark
    public void heldBack() {
        say(Level.DEBUG);
    }

    private void say(Level level) {
        log.log(
                level,
                "lane taken",
                null,
                f -> f.put("lane", "A3")
                        .put("lock_wait_ms", 2)
                        .put("vehicle", "coach")
                        .put("length_m", 12.5));
    }

    @Benchmark
    public int limitOnePassOverText() {
        int sum = 0;
        for (int i = 0; i < TEXT_WITHOUT_SECRET.length(); i++) {
            sum += TEXT_WITHOUT_SECRET.charAt(i);
        }
        return sum;
    }

    @Benchmark
    public String redaction() {
        return redactor.redact(TEXT_WITHOUT_SECRET);
    }

    @Benchmark
    public long samplingDecision() {
        return sampler.weight(draft);
    }

    @Benchmark
    public boolean routeOfThreeParts() {
        return route.matches(event);
    }

    @Benchmark
    public int limitThreeEntriesInAHashMap() {
        map.put("gate", "gate-3");
        map.put("pass", "P000812");
        map.put("queue", 3);
        int size = map.size();
        map.remove("gate");
        map.remove("pass");
        map.remove("queue");
        return size;
    }

    @Benchmark
    public void contextScope() {
        Context.open(f -> f.put("gate", "gate-3").put("pass", "P000812").put("queue", 3))
                .close();
    }

    /** The text as bytes, so that what is written by hand can be looked at. */
    @Override
    public String toString() {
        return new String(line, StandardCharsets.ISO_8859_1);
    }
}
