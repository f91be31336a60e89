package dev.graphema;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.ObjectMapper;
import dev.graphema.event.Event;
import dev.graphema.format.JsonLines;
import dev.graphema.text.Utf8Buffer;
import java.util.AbstractMap;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.NoSuchElementException;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Hostile values: no exception reaches the caller, and the event is one line of valid JSON for another parser. */
class HostileValuesTest {
    record Throwing(Object inner) {
        @Override
        public Object inner() {
            throw new IllegalStateException();
        }
    }

    @ParameterizedTest
    @ValueSource(longs = {41, 42, 43, 44, 45, 46})
    void neverReachTheCallerAndAlwaysGiveValidJson(long seed) throws Exception {
        Random random = new Random(seed);
        ObjectMapper reader = new ObjectMapper();
        try (TestRuntime runtime = TestRuntime.start()) {
            Logger log = runtime.logger("skerry");
            for (int i = 0; i < 100; i++) {
                Object value = hostile(random, 4);
                String text = text(random);
                Throwable problem = random.nextInt(4) == 0 ? throwable(random) : null;
                log.info(text, problem, f -> {
                    f.put("first", 1).put(text, value).group(text, g -> g.put("v", value));
                    if (random.nextInt(8) == 0) {
                        throw new UnsupportedOperationException(text);
                    }
                    f.put("last", 2);
                });
            }
            List<Event> events = runtime.events();

            assertEquals(100, events.size());
            for (Event event : events) {
                Utf8Buffer line = new Utf8Buffer(1024);
                new JsonLines().write(event, line);
                assertEquals(line.toString().length() - 1, line.toString().indexOf('\n'), "seed " + seed);
                var fields = reader.readTree(line.toString()).get("fields");
                assertTrue(fields.has("last") || fields.has("fields_failed"), "seed " + seed + ": " + line);
                assertEquals(1, fields.get("first").intValue());
            }
        }
    }

    private static Object hostile(Random random, int depth) {
        return switch (random.nextInt(depth > 0 ? 14 : 8)) {
            case 0 -> text(random);
            case 1 -> Double.longBitsToDouble(random.nextLong());
            case 2 -> null;
            case 3 ->
                new Object() {
                    @Override
                    public String toString() {
                        throw new StackOverflowError();
                    }
                };
            case 4 ->
                new Object() {
                    @Override
                    public String toString() {
                        return null;
                    }
                };
            case 5 -> endless();
            case 6 ->
                new Number() {
                    private static final long serialVersionUID = 1;

                    @Override
                    public int intValue() {
                        throw new ArithmeticException();
                    }

                    @Override
                    public long longValue() {
                        throw new ArithmeticException();
                    }

                    @Override
                    public float floatValue() {
                        return Float.NaN;
                    }

                    @Override
                    public double doubleValue() {
                        return Double.NaN;
                    }

                    @Override
                    public String toString() {
                        return "1e999999999";
                    }
                };
            case 7 ->
                new AbstractMap<>() {
                    @Override
                    public Set<Entry<Object, Object>> entrySet() {
                        throw new IllegalStateException();
                    }
                };
            case 8 -> new Throwing(1);
            case 9 -> {
                List<Object> cycle = new ArrayList<>();
                cycle.add(hostile(random, depth - 1));
                cycle.add(cycle);
                yield cycle;
            }
            case 10 -> Map.of(text(random), hostileOrEmpty(random, depth));
            case 11 -> new Object[] {hostile(random, depth - 1), hostile(random, depth - 1)};
            case 12 -> Arrays.asList(hostile(random, depth - 1), null);
            default -> throwable(random);
        };
    }

    private static Object hostileOrEmpty(Random random, int depth) {
        Object value = hostile(random, depth - 1);
        return value == null ? List.of() : value;
    }

    private static Iterable<Object> endless() {
        return () -> new Iterator<>() {
            @Override
            public boolean hasNext() {
                return true;
            }

            @Override
            public Object next() {
                return this;
            }

            @Override
            public String toString() {
                throw new NoSuchElementException();
            }
        };
    }

    private static Throwable throwable(Random random) {
        return new RuntimeException(text(random)) {
            private static final long serialVersionUID = 1;

            @Override
            public String getMessage() {
                if (random.nextBoolean()) {
                    throw new IllegalStateException();
                }
                return super.getMessage();
            }

            @Override
            public synchronized Throwable getCause() {
                return this;
            }
        };
    }

    private static String text(Random random) {
        char[] text = new char[random.nextInt(12)];
        for (int i = 0; i < text.length; i++) {
            text[i] = (char) random.nextInt(random.nextBoolean() ? 0x100 : 0x10000);
        }
        return new String(text);
    }
}
