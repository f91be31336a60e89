package dev.graphema;

import static org.junit.jupiter.api.Assertions.assertDoesNotThrow;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Event;
import dev.graphema.event.Level;
import java.util.AbstractMap;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Code of the program throws while the library calls it: no call of the library throws. */
class NothingReachesTheCallerTest {
    /** An error that no list of known ones contains. */
    private static final class OwnError extends Error {
        private static final long serialVersionUID = 1;
    }

    private static final class HostileException extends RuntimeException {
        private static final long serialVersionUID = 1;

        @Override
        public String getMessage() {
            throw new OwnError();
        }

        @Override
        public synchronized Throwable getCause() {
            throw new OwnError();
        }

        @Override
        public StackTraceElement[] getStackTrace() {
            throw new OwnError();
        }
    }

    private static Map<Object, Object> hostileMap() {
        return new AbstractMap<>() {
            @Override
            public Set<Entry<Object, Object>> entrySet() {
                throw new OwnError();
            }
        };
    }

    @SuppressWarnings("unchecked")
    private static <T extends Throwable> void throwUnchecked(Throwable problem) throws T {
        throw (T) problem;
    }

    @Test
    void fromASupplierOfFields() {
        try (TestRuntime runtime = TestRuntime.start()) {
            runtime.logger("skerry").info("a", f -> {
                f.put("before", 1);
                throw new OwnError();
            });
            runtime.logger("skerry")
                    .info(
                            "b",
                            f -> NothingReachesTheCallerTest.<RuntimeException>throwUnchecked(
                                    new java.io.IOException("checked and not declared")));

            assertEquals(2, runtime.events().size());
            assertEquals(1L, runtime.events().get(0).fields().get("before"));
            assertEquals(
                    OwnError.class.getName(), runtime.events().get(0).fields().get("fields_failed"));
        }
    }

    @Test
    void fromAThrowablesOwnMethods() {
        try (TestRuntime runtime = TestRuntime.start()) {
            runtime.logger("skerry").error("failed", new HostileException());

            Event event = runtime.single();
            assertEquals(HostileException.class.getName(), event.failure().type());
            assertEquals(
                    "(failed: " + OwnError.class.getName() + ")",
                    event.failure().message());
        }
    }

    @Test
    void fromContextLoggersAndOperations() {
        try (TestRuntime runtime = TestRuntime.start()) {
            try (Scope scope = Context.open(f -> f.put("map", hostileMap()));
                    Operation operation = runtime.logger("skerry").operation("work")) {
                operation.put("map", hostileMap());
                operation.group("group", g -> {
                    throw new OwnError();
                });
                runtime.logger("skerry")
                        .with(f -> {
                            throw new OwnError();
                        })
                        .info("within");
                operation.succeed();
            }

            assertEquals(2, runtime.events().size(), runtime.events().toString());
            assertEquals(
                    "(failed: " + OwnError.class.getName() + ")",
                    runtime.events().get(1).fields().get("map"));
        }
    }

    @Test
    void fromANullLevelWhichIsTakenForInfo() {
        try (TestRuntime runtime = TestRuntime.start()) {
            runtime.logger("skerry").log(null, "a", null, null);
            assertTrue(runtime.logger("skerry").enabled(null));

            assertEquals(Level.INFO, runtime.single().level());
        }
    }

    @Test
    void onlyAnExhaustedHeapIsRethrownAndTheRuntimeGoesOn() {
        try (TestRuntime runtime = TestRuntime.start()) {
            Logger log = runtime.logger("skerry");
            assertThrows(
                    OutOfMemoryError.class,
                    () -> log.info("a", f -> {
                        throw new OutOfMemoryError();
                    }));
            log.info("b");

            assertEquals("b", runtime.single().message());
            assertEquals(1, runtime.graphema().refused());
        }
    }

    @Test
    void aStackThatIsUsedUpCostsOnlyTheEventsThatHadNoRoom() {
        try (TestRuntime runtime = TestRuntime.start()) {
            Logger log = runtime.logger("skerry");
            for (int i = 0; i < 200; i++) {
                assertDoesNotThrow(() -> logAtTheEndOfTheStack(log, 0));
                log.warn("after");
            }
            long after = runtime.events().stream()
                    .filter(event -> event.message().equals("after"))
                    .count();

            assertEquals(200, after);
        }
    }

    private static int logAtTheEndOfTheStack(Logger log, int depth) {
        try {
            return logAtTheEndOfTheStack(log, depth + 1);
        } catch (StackOverflowError e) {
            return logAtTheEnd(log, depth);
        }
    }

    private static int logAtTheEnd(Logger log, int depth) {
        try {
            log.warn("at the end", f -> f.put("depth", depth));
        } catch (StackOverflowError e) {
            return 0; // there was not even room to call the logger
        }
        return depth;
    }

    @Test
    void hugeTextsNumbersAndNamesAreBounded() {
        try (TestRuntime runtime = TestRuntime.start()) {
            String huge = "a.".repeat(5_000_000);
            runtime.logger(huge).info(huge, f -> f.put(huge, huge).put("n", java.math.BigInteger.TWO.pow(10_000_000)));
            Event event = runtime.single();

            assertTrue(event.message().length() < 17_000);
            assertTrue(event.message().endsWith(" characters)"), event.message());
            assertTrue(event.logger().length() < 1_100);
            assertFalse(event.fields().names().get(0).length() > 1_100);
        }
    }
}
