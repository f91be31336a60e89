package dev.graphema;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ContextTest {
    private final TestRuntime runtime = TestRuntime.start();
    private final Logger log = runtime.logger("skerry");

    @AfterEach
    void end() {
        runtime.close();
    }

    @Test
    void everyEventBelowCarriesTheFieldsAndNoneAfter() {
        try (Scope scope = Context.open(f -> f.put("booking", "B0047113"))) {
            log.info("inside");
        }
        log.info("after");

        assertEquals(List.of("{booking=B0047113}", "{}"), emittedFields());
    }

    @Test
    void theMostSpecificWinsWhereNamesAreTheSame() {
        try (Scope outer = Context.open(f -> f.put("lane", "outer").put("port", "Ostrey"));
                Scope inner = Context.open(f -> f.put("lane", "inner").put("gate", 1))) {
            log.info("own", f -> f.put("lane", "own"));
            log.info("none");
        }

        assertEquals(List.of("{lane=own, gate=1, port=Ostrey}", "{lane=inner, gate=1, port=Ostrey}"), emittedFields());
    }

    @Test
    void closingAScopeRestoresWhatWasThereBeforeItWasOpened() {
        Scope around = Context.open(f -> f.put("around", 0));
        Scope outer = Context.open(f -> f.put("outer", 1));
        Scope inner = Context.open(f -> f.put("inner", 2));
        outer.close();
        log.info("as before outer");
        inner.close();
        log.info("still so");
        around.close();
        log.info("none");

        assertEquals(List.of("{around=0}", "{around=0}", "{}"), emittedFields());
    }

    @Test
    void aScopeOfAnEarlierTaskThatIsClosedLateLeavesTheNextTaskAlone() {
        Scope[] late = new Scope[1];
        Context.capture()
                .runnable(() -> late[0] = Context.open(f -> f.put("task", 1)))
                .run();
        Scope forgotten = Context.open(f -> f.put("forgotten", 1));
        Context.capture()
                .runnable(() -> {
                    Scope scope = Context.open(f -> f.put("task", 2));
                    late[0].close();
                    forgotten.close();
                    log.info("the second task");
                    scope.close();
                })
                .run();
        log.info("after");

        assertEquals(List.of("{task=2, forgotten=1}", "{}"), emittedFields());
    }

    @Test
    void aScopeClosedByAnotherThreadEnds() throws InterruptedException {
        Scope scope = Context.open(f -> f.put("booking", 1));
        Thread other = new Thread(scope::close);
        other.start();
        other.join();
        log.info("after");

        assertEquals(List.of("{}"), emittedFields());
    }

    @Test
    void anotherThreadHasAContextOfItsOwn() throws InterruptedException {
        try (Scope scope = Context.open(f -> f.put("booking", 1))) {
            Thread other = new Thread(() -> log.info("elsewhere"));
            other.start();
            other.join();
        }

        assertEquals(List.of("{}"), emittedFields());
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5})
    void anySequenceOfOpensAndClosesEndsAsItBegan(long seed) {
        Random random = new Random(seed);
        List<String> expected = new ArrayList<>();
        Deque<Map.Entry<Integer, Scope>> open = new ArrayDeque<>();
        for (int i = 0; i < 300; i++) {
            if (open.size() < 6 && random.nextBoolean()) {
                int number = i;
                open.push(Map.entry(number, Context.open(f -> f.put("n" + number, number))));
            } else if (!open.isEmpty()) {
                List<Map.Entry<Integer, Scope>> any = new ArrayList<>(open);
                Collections.shuffle(any, random);
                any.get(0).getValue().close();
                while (open.contains(any.get(0))) {
                    open.pop(); // those that were opened later go with it
                }
            }
            log.info("step");
            Map<String, Object> fields = new TreeMap<>();
            open.forEach(entry -> fields.put("n" + entry.getKey(), (long) entry.getKey()));
            expected.add(fields.toString());
        }
        open.forEach(entry -> entry.getValue().close());
        log.info("end");
        expected.add("{}");

        List<String> seen = runtime.events().stream()
                .map(event -> new TreeMap<>(event.fields().toMap()).toString())
                .toList();
        assertEquals(expected, seen, "seed " + seed);
        assertTrue(seen.size() > 300);
    }

    private List<String> emittedFields() {
        return runtime.events().stream().map(event -> event.fields().toString()).toList();
    }
}
