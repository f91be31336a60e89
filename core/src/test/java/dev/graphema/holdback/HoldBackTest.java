package dev.graphema.holdback;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.trace.TraceId;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicLong;
import org.junit.jupiter.api.Test;

class HoldBackTest {
    private final AtomicLong clock = new AtomicLong();

    @Test
    void whatIsHeldComesOutInOrderWhenItsOwnGroupIsReleased() {
        HoldBack holdBack = new HoldBack(HoldBackRule.USUAL, clock::get);
        for (int i = 0; i < 6; i++) {
            assertEquals(HoldBack.Fate.HELD, holdBack.hold(detail(i % 2 + 1, "m" + i)));
        }
        assertFalse(holdBack.isReleasedBy(detail(1, "x").level(Level.WARN)));
        Event cause = detail(1, "failed").level(Level.ERROR).finish();
        assertTrue(holdBack.isReleasedBy(cause));

        assertEquals(List.of("m0", "m2", "m4"), messages(holdBack.release(cause)));
        assertEquals(List.of(), messages(holdBack.release(cause)), "only once");
        assertEquals(HoldBack.Fate.PASSES, holdBack.hold(detail(1, "later")), "what follows a failure is of use, too");
        assertEquals(HoldBack.Fate.HELD, holdBack.hold(detail(2, "later")));
        assertEquals(new HoldBack.Held(2, 4, holdBack.held().bytes(), 3, 0, 0), holdBack.held());
    }

    @Test
    void aGroupCanBeAFieldAndWhatHasNoneIsNotHeld() {
        HoldBack holdBack = new HoldBack(HoldBackRule.USUAL.by("order.id"), clock::get);
        assertFalse(holdBack.isAbout(detail(1, "m")));
        for (int i = 0; i < 3; i++) {
            int order = i;
            holdBack.hold(detail(1, "m" + i).fields(f -> f.group("order", g -> g.put("id", order % 2))));
        }
        Draft cause = detail(9, "failed").fields(f -> f.group("order", g -> g.put("id", 0)));
        assertEquals(List.of("m0", "m2"), messages(holdBack.release(cause.finish())));
        assertEquals(List.of(), messages(holdBack.release(detail(1, "failed").finish())), "of no group");
    }

    @Test
    void nothingIsHeldThatIsSevereEnoughOrWhenThereIsNoRule() {
        HoldBack holdBack = new HoldBack(HoldBackRule.USUAL, clock::get);
        assertTrue(holdBack.isAbout(detail(1, "m").level(Level.TRACE)));
        assertFalse(holdBack.isAbout(detail(1, "m").level(Level.INFO)));
        assertFalse(HoldBack.NONE.isAbout(detail(1, "m")));
        assertFalse(HoldBack.NONE.isReleasedBy(detail(1, "m").level(Level.FATAL)));
    }

    @Test
    void ofTooManyEventsInAGroupTheOldestGoAndThatIsReported() {
        HoldBack holdBack = new HoldBack(HoldBackRule.USUAL.events(3), clock::get);
        for (int i = 0; i < 10; i++) {
            holdBack.hold(detail(1, "m" + i));
        }
        HoldBack.Released released = holdBack.release(detail(1, "failed").finish());
        assertEquals(List.of("m7", "m8", "m9"), messages(released));
        assertEquals(7, released.missing());
        assertEquals(new HoldBack.Held(1, 0, HoldBack.GROUP_COST, 3, 0, 7), holdBack.held());
    }

    @Test
    void missingDetailIsReportedWithTheFirstReleaseAlone() {
        HoldBack holdBack = new HoldBack(HoldBackRule.USUAL.events(3), clock::get);
        for (int i = 0; i < 10; i++) {
            holdBack.hold(detail(1, "m" + i));
        }
        assertEquals(7, holdBack.release(detail(1, "failed").finish()).missing());
        assertEquals(0, holdBack.release(detail(1, "failed again").finish()).missing());
    }

    @Test
    void detailIsNotReleasedWhenItsTimeIsOverAlsoInAQuietProcess() {
        HoldBack holdBack = new HoldBack(HoldBackRule.USUAL.time(Duration.ofSeconds(10)), clock::get);
        holdBack.hold(detail(1, "long ago"));
        clock.addAndGet(Duration.ofSeconds(60).toNanos());

        assertEquals(List.of(), messages(holdBack.release(detail(1, "failed").finish())));
        assertEquals(1, holdBack.held().vanished());
    }

    @Test
    void detailThatComesAtTheEndOfItsGroupBeginsAnotherOne() {
        HoldBack holdBack = new HoldBack(HoldBackRule.USUAL.time(Duration.ofSeconds(10)), clock::get);
        holdBack.hold(detail(1, "long ago"));
        clock.addAndGet(Duration.ofSeconds(10).toNanos());
        assertEquals(HoldBack.Fate.HELD, holdBack.hold(detail(1, "just now")));

        assertEquals(
                List.of("just now"),
                messages(holdBack.release(detail(1, "failed").finish())));
        assertEquals(new HoldBack.Held(1, 0, HoldBack.GROUP_COST, 1, 1, 0), holdBack.held());
    }

    @Test
    void ofTooManyGroupsTheOldestGo() {
        HoldBack holdBack = new HoldBack(HoldBackRule.USUAL.groups(2), clock::get);
        for (int trace = 1; trace <= 4; trace++) {
            holdBack.hold(detail(trace, "m" + trace));
        }
        assertEquals(2, holdBack.held().groups());
        assertEquals(2, holdBack.held().evicted());
        assertEquals(
                List.of("m4"), messages(holdBack.release(detail(4, "failed").finish())));
        assertEquals(List.of(), messages(holdBack.release(detail(1, "failed").finish())));
    }

    @Test
    void whatNothingHappensToVanishesWhenItsTimeIsOver() {
        HoldBack holdBack = new HoldBack(HoldBackRule.USUAL.time(Duration.ofSeconds(10)), clock::get);
        holdBack.hold(detail(1, "old"));
        clock.addAndGet(Duration.ofSeconds(9).toNanos());
        holdBack.hold(detail(2, "young"));
        clock.addAndGet(Duration.ofSeconds(1).toNanos());
        holdBack.hold(detail(3, "now"));
        assertEquals(new HoldBack.Held(2, 2, holdBack.held().bytes(), 0, 1, 0), holdBack.held());
        assertEquals(
                List.of("young"), messages(holdBack.release(detail(2, "failed").finish())));

        clock.addAndGet(Duration.ofSeconds(9).toNanos());
        holdBack.hold(detail(4, "later"));
        assertEquals(HoldBack.Fate.HELD, holdBack.hold(detail(2, "m")), "the release is over, too");
    }

    @Test
    void bytesAreBoundedWhateverIsHeld() {
        HoldBack holdBack = new HoldBack(HoldBackRule.USUAL.bytes(64 * 1024), clock::get);
        Random random = new Random(1);
        for (int i = 0; i < 20_000; i++) {
            holdBack.hold(detail(random.nextInt(100) + 1, "m".repeat(random.nextInt(500))));
            assertTrue(holdBack.held().bytes() <= 64 * 1024);
        }
        HoldBack.Held held = holdBack.held();
        assertEquals(20_000, held.events() + held.evicted());
    }

    @Test
    void manyThreadsLoseNothingAndCountEverything() throws InterruptedException {
        HoldBack holdBack =
                new HoldBack(HoldBackRule.USUAL.groups(50).events(20).bytes(256 * 1024), System::nanoTime);
        AtomicLong emitted = new AtomicLong();
        AtomicLong passed = new AtomicLong();
        AtomicLong out = new AtomicLong();
        List<Thread> threads = new ArrayList<>();
        for (int t = 0; t < 4; t++) {
            Random random = new Random(t);
            Thread thread = new Thread(() -> {
                for (int i = 0; i < 20_000; i++) {
                    int trace = random.nextInt(200) + 1;
                    if (random.nextInt(50) == 0) {
                        out.addAndGet(holdBack.release(detail(trace, "failed").finish())
                                .events()
                                .size());
                    } else {
                        emitted.incrementAndGet();
                        passed.addAndGet(holdBack.hold(detail(trace, "m")) == HoldBack.Fate.PASSES ? 1 : 0);
                    }
                }
            });
            thread.start();
            threads.add(thread);
        }
        for (Thread thread : threads) {
            thread.join();
        }
        HoldBack.Held held = holdBack.held();
        assertEquals(out.get(), held.released());
        assertEquals(emitted.get(), passed.get() + held.released() + held.vanished() + held.evicted() + held.events());
        assertTrue(held.groups() <= 50, held.toString());
        holdBack.hold(detail(1, "m"));
        assertTrue(holdBack.held().bytes() <= 256 * 1024, held.toString());
    }

    /** In a process whose heap is hardly larger than the limit of held events, so that wrong counts exhaust the memory. */
    @Test
    void aHundredThousandGroupsStayWithinTheBounds() throws Exception {
        Process process = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-Xmx40m",
                        "-cp",
                        System.getProperty("java.class.path"),
                        Program.class.getName())
                .redirectErrorStream(true)
                .start();
        String output = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        assertTrue(process.waitFor(5, TimeUnit.MINUTES));
        assertEquals("within its bounds\n", output);
    }

    static final class Program {
        public static void main(String[] arguments) {
            HoldBackRule rule = HoldBackRule.USUAL.groups(100_000).bytes(24L * 1024 * 1024);
            HoldBack holdBack = new HoldBack(rule, System::nanoTime);
            int groups = 150_000;
            long most = 0;
            Draft draft = new Draft();
            for (int i = 0; i < groups * 10; i++) {
                draft.again().time(1).level(Level.DEBUG).logger("skerry.deck").message("lane tried");
                draft.trace(new TraceId(0, i % groups + 1), null, null);
                holdBack.hold(draft.fields(f -> f.put("lane", "A3").put("wait", 250)));
                most = Math.max(most, holdBack.held().bytes());
            }
            HoldBack.Held held = holdBack.held();
            boolean within = most <= rule.bytes()
                    && held.groups() <= rule.groups()
                    && held.groups() > 10_000
                    && held.events() + held.evicted() + held.vanished() == groups * 10L;
            System.out.println(within ? "within its bounds" : held + ", most " + most);
        }
    }

    @Test
    void aRuleThatCannotMatchIsRefused() {
        HoldBackRule usual = HoldBackRule.USUAL;
        assertThrows(IllegalArgumentException.class, () -> usual.below(Level.TRACE));
        assertThrows(IllegalArgumentException.class, () -> usual.below(Level.OFF));
        assertThrows(IllegalArgumentException.class, () -> usual.by(" "));
        assertThrows(IllegalArgumentException.class, () -> usual.events(0));
        assertThrows(IllegalArgumentException.class, () -> usual.groups(0));
        assertThrows(IllegalArgumentException.class, () -> usual.bytes(1));
        assertThrows(IllegalArgumentException.class, () -> usual.time(Duration.ZERO));
    }

    private static Draft detail(long trace, String message) {
        return new Draft()
                .time(1)
                .level(Level.DEBUG)
                .logger("skerry.deck")
                .message(message)
                .trace(new TraceId(0, trace), null, null);
    }

    private static List<String> messages(HoldBack.Released released) {
        return released.events().stream().map(Draft::message).toList();
    }
}
