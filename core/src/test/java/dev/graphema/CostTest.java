package dev.graphema;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.sun.management.ThreadMXBean;
import dev.graphema.condition.Condition;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.format.JsonLines;
import dev.graphema.redaction.Detector;
import dev.graphema.redaction.Detectors;
import dev.graphema.redaction.KeyRules;
import dev.graphema.redaction.Redactor;
import dev.graphema.redaction.Treatment;
import dev.graphema.redaction.Trigger;
import dev.graphema.sampling.Sampler;
import dev.graphema.sampling.SamplingRule;
import dev.graphema.settings.RedactionSettings;
import dev.graphema.text.Utf8Buffer;
import java.lang.management.ManagementFactory;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Consumer;
import org.junit.jupiter.api.Test;

/** The costs of calls that are the same on every machine: bytes allocated by the calling thread, and detectors that examine a text. */
class CostTest {
    private static final ThreadMXBean THREADS = (ThreadMXBean) ManagementFactory.getThreadMXBean();
    private static final int CALLS = 1_000;
    private static final int ROUNDS = 30;
    private static final String TEXT_WITHOUT_SECRET =
            "the vehicle deck has room for a coach of twelve metres in lane A3, sailing SK-204, 38 passengers aboard";

    /** How many bytes a call allocates when it has been called often, by the round in which it was least: a compiler may be at work in others. */
    private static long bytes(Runnable call) {
        long least = Long.MAX_VALUE;
        for (int round = 0; round < ROUNDS; round++) {
            long before = THREADS.getCurrentThreadAllocatedBytes();
            for (int i = 0; i < CALLS; i++) {
                call.run();
            }
            least = Math.min(least, THREADS.getCurrentThreadAllocatedBytes() - before);
        }
        return least / CALLS;
    }

    @Test
    void aRefusedEventAllocatesNothing() {
        try (Graphema graphema = Graphema.isolated(settings -> settings.sink("memory", event -> {}))) {
            Logger log = graphema.logger("skerry.deck");
            assertEquals(
                    0,
                    bytes(() -> log.debug("lane taken", f -> f.put("lane", "A3").put("lock_wait_ms", 2))));
        }
    }

    @Test
    void anAcceptedEventAllocatesNothing() {
        assertEquals(
                0,
                bytesOfAnEvent(log -> log.info(
                        "lane taken",
                        f -> f.put("lane", "A3")
                                .put("lock_wait_ms", 2)
                                .put("vehicle", "coach")
                                .put("length_m", 12.5))));
    }

    @Test
    void anAcceptedEventWithVariablesAllocatesItsLambda() {
        int[] count = {0};
        long bytes = bytesOfAnEvent(log -> {
            int wait = ++count[0];
            double length = wait / 2.0;
            log.info(
                    "lane taken",
                    f -> f.put("lane", "A3")
                            .put("lock_wait_ms", wait)
                            .put("vehicle", "coach")
                            .put("length_m", length));
        });
        assertTrue(bytes <= 32, bytes + " bytes for an event of seven fields");
    }

    private static long bytesOfAnEvent(Consumer<Logger> event) {
        try (Graphema graphema = Graphema.isolated(settings -> settings.service("deck")
                .instance("deck-1")
                .sink("memory", written -> {})
                .redaction(RedactionSettings.USUAL))) {
            Logger log = graphema.logger("skerry.deck.Lanes");
            try (Scope trace = Correlation.begin();
                    Scope context = Context.open(f -> f.put("booking", "B0047113")
                            .put("sailing", "SK-204")
                            .put("tenant", "skerry"))) {
                long bytes = bytes(() -> event.accept(log));
                assertTrue(graphema.flush(Duration.ofSeconds(10)));
                return bytes;
            }
        }
    }

    @Test
    void whatDecidesAboutAnEventAllocatesNothing() {
        Redactor redactor = RedactionSettings.USUAL.redactor();
        assertEquals(0, bytes(() -> redactor.redact(TEXT_WITHOUT_SECRET)));
        Sampler sampler =
                new Sampler(List.of(new SamplingRule(Condition.parse("logger = skerry.gate"), 20, true)), () -> 7);
        Draft draft = new Draft().level(Level.INFO).logger("skerry.gate").message("m");
        assertEquals(0, bytes(() -> sampler.weight(draft)));
        Condition route = Condition.parse("level >= warn and service = deck and lock_wait_ms > 250");
        Event event = new Draft()
                .level(Level.WARN)
                .service("deck")
                .logger("skerry.deck")
                .message("lane not free")
                .fields(f -> f.put("lane", "A3").put("lock_wait_ms", 300))
                .finish();
        assertEquals(0, bytes(() -> route.matches(event)));
    }

    @Test
    void aLineOfTextsThatRecurIsWrittenWithoutObjects() {
        JsonLines lines = new JsonLines();
        Utf8Buffer buffer = new Utf8Buffer(4096);
        Event event = new Draft()
                .time(1_778_826_662_123_456_789L)
                .level(Level.INFO)
                .service("deck")
                .logger("skerry.deck")
                .message("lane taken")
                .fields(f -> f.put("lane", "A3").put("lock_wait_ms", 300).put("length_m", 12.5))
                .finish();
        assertEquals(0, bytes(() -> {
            buffer.clear();
            lines.write(event, buffer);
        }));
    }

    @Test
    void aContextScopeIsItsFieldsAndAFrame() {
        long bytes = bytes(() -> Context.open(
                        f -> f.put("gate", "gate-3").put("pass", "P000812").put("queue", 3))
                .close());
        assertTrue(bytes <= 320, bytes + " bytes for a scope of three fields");
    }

    @Test
    void detectorsLookOnlyAtTextsThatHaveASign() {
        AtomicInteger looks = new AtomicInteger();
        Redactor redactor = new Redactor(
                Detectors.usual().stream()
                        .map(name -> rule(Detectors.named(name), looks))
                        .toList(),
                KeyRules.NONE,
                Map.of());
        for (String text : List.of(
                "lane taken",
                "lane not free",
                "A3",
                "coach",
                "B0047113",
                "skerry",
                "gate-3",
                "pool-1-thread-7",
                "2.4.1")) {
            assertEquals(text, redactor.redact(text));
        }
        assertEquals(0, looks.get());
        redactor.redact(TEXT_WITHOUT_SECRET);
        assertTrue(
                looks.get() <= 1, looks + " detectors examined it: only the one for bank accounts must, because of A3");
    }

    @Test
    void whatComesAgainAsTheSameObjectIsLookedAtOnce() {
        AtomicInteger looks = new AtomicInteger();
        Redactor redactor = new Redactor(List.of(rule(new Everywhere(), looks)), KeyRules.NONE, Map.of());
        for (int i = 0; i < 10; i++) {
            redactor.redact(new Draft()
                    .message("lane taken")
                    .thread("pool-1-thread-7")
                    .fields(f -> f.put("lane", "A3").put("vehicle", "coach")));
        }
        int texts = 6; // message, thread, two names and two values
        assertEquals(texts, looks.get());
    }

    private static Redactor.Rule rule(Detector detector, AtomicInteger looks) {
        return new Redactor.Rule(
                new Detector() {
                    @Override
                    public String name() {
                        return detector.name();
                    }

                    @Override
                    public int shortest() {
                        return detector.shortest();
                    }

                    @Override
                    public Trigger trigger() {
                        return detector.trigger();
                    }

                    @Override
                    public long find(String text, int from) {
                        looks.incrementAndGet();
                        return detector.find(text, from);
                    }
                },
                Treatment.FIXED);
    }

    /** Wants to see every text, and finds nothing. */
    private static final class Everywhere implements Detector {
        @Override
        public String name() {
            return "everywhere";
        }

        @Override
        public int shortest() {
            return 1;
        }

        @Override
        public long find(String text, int from) {
            return NOTHING;
        }
    }
}
