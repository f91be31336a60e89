package dev.graphema.event;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.function.Consumer;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class FieldsTest {
    private static final ValuePredicate IS_A = new ValuePredicate() {
        @Override
        public boolean text(String value) {
            return value.equals("a");
        }
    };

    @Test
    void fieldsKeepTheirOrderAndTypes() {
        Fields fields = Fields.of(f -> f.put("sailing", "SK-204")
                .put("passengers", 3)
                .put("fare", 82.5)
                .put("paid", true)
                .put("class", 'B'));

        assertEquals(
                List.of("sailing", "passengers", "fare", "paid", "class"),
                List.copyOf(fields.toMap().keySet()));
        assertEquals(3L, fields.get("passengers"));
        assertEquals(82.5, fields.get("fare"));
        assertEquals(true, fields.get("paid"));
        assertEquals("B", fields.get("class"));
    }

    @Test
    void aLaterValueTakesThePlaceOfAnEarlierOne() {
        Fields fields = Fields.of(f -> f.put("lane", "A1").put("length_m", 4.5).put("lane", 7));

        assertEquals("{lane=7, length_m=4.5}", fields.toString());
    }

    @Test
    void aLaterGroupReplacesAnEarlierOneWhole() {
        Fields fields = Fields.of(f -> f.group("deck", g -> g.put("lane", "A1").put("plan", 3))
                .put("sailing", "SK-204")
                .group("deck", g -> g.put("lane", "B2")));

        assertEquals(Map.of("lane", "B2"), fields.get("deck"));
        assertFalse(fields.has("deck.plan"));
        assertEquals(2, fields.count());
    }

    @Test
    void theSameNameInTwoGroupsIsKeptApart() {
        Fields fields = Fields.of(f -> f.group("bank", g -> g.put("status", 402))
                .group("tide", g -> g.put("status", 200))
                .put("status", 503));

        assertEquals(402L, fields.get("bank.status"));
        assertEquals(200L, fields.get("tide.status"));
        assertEquals(503L, fields.get("status"));
    }

    @Test
    void aDottedNameAndAGroupAreFoundAlike() {
        Fields flat = Fields.of(f -> f.put("passenger.email", "a"));
        Fields grouped = Fields.of(f -> f.group("passenger", g -> g.put("email", "a")));
        Fields mixed = Fields.of(f -> f.group("booking.passenger", g -> g.put("email.work", "a")));

        assertTrue(flat.test("passenger.email", IS_A));
        assertTrue(grouped.test("passenger.email", IS_A));
        assertTrue(mixed.test("booking.passenger.email.work", IS_A));
        assertFalse(grouped.test("passenger", IS_A));
        assertFalse(grouped.test("passenger.mail", IS_A));
    }

    @Test
    void aListPassesWhenOneItemDoes() {
        Fields fields = Fields.of(f -> f.put("lanes", List.of("b", "a")).put("none", List.of()));

        assertTrue(fields.test("lanes", IS_A));
        assertFalse(fields.test("none", IS_A));
    }

    @Test
    void missingFieldsAreAddedWithTheirGroups() {
        Draft draft = new Draft().fields(f -> f.put("lane", "A1"));
        draft.missingFields(Fields.of(f -> f.put("lane", "hidden")
                .group("deck", g -> g.put("plan", 3).put("ports", List.of("Ostrey")))
                .put("booking", "B0047113")));

        assertEquals(
                "{lane=A1, deck={plan=3, ports=[Ostrey]}, booking=B0047113}",
                draft.finish().fields().toString());
    }

    @Test
    void aSupplierThatThrowsKeepsWhatItHadPut() {
        Fields fields = Fields.of(f -> {
            f.put("lane", "A1").group("deck", g -> {
                g.put("plan", 3);
                throw new IllegalStateException("secret");
            });
            throw new UnsupportedOperationException();
        });

        assertEquals("A1", fields.get("lane"));
        assertEquals(3L, fields.get("deck.plan"));
        assertEquals("java.lang.IllegalStateException", fields.get("deck.fields_failed"));
        assertEquals("java.lang.UnsupportedOperationException", fields.get("fields_failed"));
        assertFalse(fields.toString().contains("secret"));
    }

    @Test
    void aWriterThatIsKeptIsIgnoredLater() {
        List<FieldWriter> kept = new ArrayList<>();
        Fields fields = Fields.of(f -> kept.add(f.put("lane", "A1")));

        kept.get(0).put("late", 1).put("late", (Object) "x").group("late", g -> g.put("x", 1));

        assertEquals("{lane=A1}", fields.toString());
    }

    @Test
    void whatIsHandedOutCannotBeChanged() {
        Fields fields = Fields.of(f -> f.put("lanes", List.of(1)));

        assertThrows(UnsupportedOperationException.class, () -> fields.toMap().clear());
        assertThrows(UnsupportedOperationException.class, () -> ((List<?>) fields.get("lanes")).clear());
    }

    @Test
    void nullsAreFieldsWithoutAValue() {
        Fields fields = Fields.of(f -> f.put("lane", (String) null).put((String) null, 1));

        assertTrue(fields.has("lane"));
        assertNull(fields.get("lane"));
        assertEquals(1L, fields.get("null"));
    }

    @Test
    void onlyNumbersThatCouldBeAccountsAreRewritten() {
        Draft draft = new Draft()
                .fields(f -> f.put("small", 411_111L)
                        .put("card", 4_111_111_111_111_111L)
                        .put("real", 4_111_111_111_111_111.0)
                        .put("exact", new BigDecimal("4111111111111111")));
        draft.rewrite(text -> text.equals("4111111111111111") ? "hidden" : text);

        assertEquals(
                "{small=411111, card=hidden, real=hidden, exact=hidden}",
                draft.finish().fields().toString());
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8})
    void anySequenceOfPutsGivesWhatAMapWouldHold(long seed) {
        Random random = new Random(seed);
        for (int round = 0; round < 200; round++) {
            Map<String, Object> expected = new LinkedHashMap<>();
            Consumer<FieldWriter> puts = puts(random, expected, 3);
            assertEquals(expected, Fields.of(puts).toMap(), "seed " + seed + ", round " + round);
        }
    }

    private static Consumer<FieldWriter> puts(Random random, Map<String, Object> expected, int depth) {
        List<Consumer<FieldWriter>> puts = new ArrayList<>();
        for (int i = random.nextInt(6); i > 0; i--) {
            String name = "n" + random.nextInt(4);
            switch (random.nextInt(depth > 0 ? 4 : 3)) {
                case 0 -> {
                    long value = random.nextLong();
                    expected.put(name, value);
                    puts.add(f -> f.put(name, value));
                }
                case 1 -> {
                    String value = "text" + random.nextInt();
                    expected.put(name, value);
                    puts.add(f -> f.put(name, value));
                }
                case 2 -> {
                    List<Object> value = List.of(random.nextLong(), List.of("x"), Map.of("y", true));
                    expected.put(name, value);
                    puts.add(f -> f.put(name, value));
                }
                default -> {
                    Map<String, Object> group = new LinkedHashMap<>();
                    Consumer<FieldWriter> inside = puts(random, group, depth - 1);
                    expected.put(name, group);
                    puts.add(f -> f.group(name, inside));
                }
            }
        }
        return f -> puts.forEach(put -> put.accept(f));
    }
}
