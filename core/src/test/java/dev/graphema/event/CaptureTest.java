package dev.graphema.event;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.net.URI;
import java.nio.file.Path;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.AbstractList;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

class CaptureTest {
    record Vehicle(String kind, double length) {}

    static Stream<Arguments> values() {
        return Stream.of(
                Arguments.of((byte) 1, 1L),
                Arguments.of((short) 2, 2L),
                Arguments.of(3, 3L),
                Arguments.of(4L, 4L),
                Arguments.of(0.1f, 0.1),
                Arguments.of(0.25, 0.25),
                Arguments.of('c', "c"),
                Arguments.of(true, true),
                Arguments.of("text", "text"),
                Arguments.of(new StringBuilder("built"), "built"),
                Arguments.of(new BigDecimal("12.50"), new BigDecimal("12.50")),
                Arguments.of(BigInteger.TEN, 10L),
                Arguments.of(BigInteger.TWO.pow(70), new BigDecimal(BigInteger.TWO.pow(70))),
                Arguments.of(new AtomicInteger(5), 5L),
                Arguments.of(Instant.EPOCH, Instant.EPOCH),
                Arguments.of(Duration.ofMillis(250), Duration.ofMillis(250)),
                Arguments.of(LocalDate.of(2026, 5, 15), "2026-05-15"),
                Arguments.of(DayOfWeek.FRIDAY, "FRIDAY"),
                Arguments.of(new UUID(1, 2), "00000000-0000-0001-0000-000000000002"),
                Arguments.of(URI.create("https://skerry.example/x"), "https://skerry.example/x"),
                Arguments.of(Path.of("a", "b"), Path.of("a", "b").toString()),
                Arguments.of(String.class, "java.lang.String"),
                Arguments.of(Optional.of("in"), "in"),
                Arguments.of(Optional.empty(), null),
                Arguments.of(OptionalInt.of(7), 7L),
                Arguments.of(new int[] {1, 2}, List.of(1L, 2L)),
                Arguments.of(new String[][] {{"a"}, {}}, List.of(List.of("a"), List.of())),
                Arguments.of(List.of(1, "b"), List.of(1L, "b")),
                Arguments.of(Map.of("k", Map.of("l", 1)), Map.of("k", Map.of("l", 1L))),
                Arguments.of(new Vehicle("coach", 12.5), Map.of("kind", "coach", "length", 12.5)));
    }

    @ParameterizedTest
    @MethodSource("values")
    void everyTypeBecomesASnapshot(Object value, Object expected) {
        assertEquals(expected, captured(value));
    }

    @Test
    void whatHappensToTheObjectLaterDoesNotChangeTheEvent() {
        List<String> lanes = new ArrayList<>(List.of("A1"));
        Fields fields = Fields.of(f -> f.put("lanes", lanes));
        lanes.add("A2");

        assertEquals(List.of("A1"), fields.get("lanes"));
    }

    @Test
    void anObjectThatThrowsCostsOnlyItsOwnField() {
        Object hostile = new Object() {
            @Override
            public String toString() {
                throw new IllegalStateException("secret");
            }
        };
        Fields fields =
                Fields.of(f -> f.put("before", 1).put("hostile", hostile).put("after", 2));

        assertEquals("(failed: java.lang.IllegalStateException)", fields.get("hostile"));
        assertEquals(1L, fields.get("before"));
        assertEquals(2L, fields.get("after"));
    }

    @Test
    void aListThatThrowsHalfwayLeavesNoHalf() {
        List<Integer> hostile = new AbstractList<>() {
            @Override
            public Integer get(int index) {
                if (index == 2) {
                    throw new IndexOutOfBoundsException();
                }
                return index;
            }

            @Override
            public int size() {
                return 5;
            }
        };
        Fields fields = Fields.of(f -> f.put("items", hostile).put("after", 2));

        assertEquals("(failed: java.util.NoSuchElementException)", fields.get("items"));
        assertEquals(2L, fields.get("after"));
    }

    @Test
    void anEndlessRecursionCostsOnlyItsOwnField() {
        Object endless = new Object() {
            @Override
            public String toString() {
                return "x" + this;
            }
        };

        assertEquals("(failed: java.lang.StackOverflowError)", captured(endless));
    }

    @Test
    void cyclesAreCut() {
        List<Object> list = new ArrayList<>();
        list.add(list);
        Map<String, Object> map = new HashMap<>();
        map.put("self", map);

        assertEquals(List.of("… (contains itself)"), captured(list));
        assertEquals(Map.of("self", "… (contains itself)"), captured(map));
    }

    @Test
    void theSameObjectTwiceIsNoCycle() {
        List<Integer> shared = List.of(1);

        assertEquals(List.of(List.of(1L), List.of(1L)), captured(List.of(shared, shared)));
    }

    @Test
    void depthIsBoundedWithAMark() {
        Object nested = "core";
        for (int i = 0; i < 20; i++) {
            nested = List.of(nested);
        }

        assertTrue(captured(nested).toString().contains("… (deeper than 8 levels)"));
    }

    @Test
    void widthIsBoundedWithAMark() {
        List<?> list = (List<?>) captured(IntStream.range(0, 100_000).boxed().toList());
        Map<?, ?> map = (Map<?, ?>) captured(
                IntStream.range(0, 1_000).boxed().collect(java.util.stream.Collectors.toMap(i -> "k" + i, i -> i)));

        assertEquals(257, list.size());
        assertEquals("… (more than 256 entries)", list.get(256));
        assertEquals(257, map.size());
        assertEquals("… (more than 256 entries)", map.get("…"));
    }

    @Test
    void aFieldPutManyTimesDoesNotUseUpTheWidth() {
        Fields fields = Fields.of(f -> {
            for (int i = 0; i < 1_000; i++) {
                f.put("same", i);
            }
            f.put("last", true);
        });

        assertEquals(Map.of("same", 999L, "last", true), fields.toMap());
    }

    @Test
    void longTextsAreCutWithAMarkAndNotInsideACharacter() {
        String text = "x".repeat(16 * 1024 - 1) + "😀".repeat(3);

        assertEquals("x".repeat(16 * 1024 - 1) + "… (+6 characters)", captured(text));
    }

    @Test
    void whatIsReadAgainIsNotCut() {
        String text = "x".repeat(100_000);
        Event event = Draft.ofWritten()
                .fields(f -> f.put("text", text).put("list", Collections.nCopies(1_000, 1)))
                .finish();

        assertEquals(text, event.fields().get("text"));
        assertEquals(1_000, ((List<?>) event.fields().get("list")).size());
    }

    private static Object captured(Object value) {
        return Fields.of(f -> f.put("value", value)).get("value");
    }

    @Test
    void anObjectIsAskedForItsTextOnTheCallersThread() {
        ThreadLocal<String> tenant = new ThreadLocal<>();
        tenant.set("skerry");
        Object object = new Object() {
            @Override
            public String toString() {
                return tenant.get() + " on " + Thread.currentThread().getName();
            }
        };

        assertEquals("skerry on " + Thread.currentThread().getName(), captured(object));
    }

    @ParameterizedTest
    @ValueSource(
            classes = {AssertionError.class, LinkageError.class, ThreadDeath.class, InternalError.class, Error.class})
    void anyErrorOfAnObjectCostsOnlyItsOwnField(Class<? extends Error> type) throws Exception {
        Error error = type.getDeclaredConstructor().newInstance();
        Object hostile = new Object() {
            @Override
            public String toString() {
                throw error;
            }
        };
        Map<Object, Object> map = new HashMap<>(Map.of("key", hostile));
        Fields fields = Fields.of(f -> f.put("object", hostile)
                .put("map", map)
                .put("list", List.of(hostile))
                .put("after", 2));

        assertEquals("(failed: " + type.getName() + ")", fields.get("object"));
        assertEquals("(failed: " + type.getName() + ")", fields.get("map.key"));
        assertEquals(2L, fields.get("after"));
    }

    @Test
    void numbersOfVeryManyDigitsAreNotWrittenOut() {
        BigInteger huge = BigInteger.ONE.shiftLeft(5_000_000);

        assertEquals("… (a number of about 1505151 digits)", captured(huge));
        assertEquals("… (a number of about 1505151 digits)", captured(new BigDecimal(huge, 3)));
        assertEquals(new BigDecimal("9".repeat(1000)), captured(new BigInteger("9".repeat(1000))));
    }

    @Test
    void anObjectWhoseLockTheCallerHoldsAnswersAllTheSame() {
        class Guarded {
            @Override
            public synchronized String toString() {
                return "guarded";
            }
        }
        Guarded guarded = new Guarded();
        synchronized (guarded) {
            assertEquals("guarded", captured(guarded));
        }
    }

    @Test
    void aThrowableIsAGroup() {
        Object captured = captured(new IllegalStateException("refused", new java.io.IOException()));

        assertEquals(
                "{type=java.lang.IllegalStateException, message=refused, cause={type=java.io.IOException, message=null}}",
                captured.toString());
    }
}
