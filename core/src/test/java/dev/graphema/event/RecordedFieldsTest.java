package dev.graphema.event;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.Condition;
import dev.graphema.redaction.Detectors;
import dev.graphema.redaction.Redactor;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** A borrowed draft records fields as bytes, and any other as an object. Both must be the same event. */
class RecordedFieldsTest {
    private static final int EVENTS = 2_000;
    private static final Redactor REDACTOR =
            new Redactor(Detectors.usual().stream().map(Detectors::named).toList());

    @Test
    void fieldsAreTheSameInBothForms() {
        int changed = 0;
        for (int seed = 0; seed < EVENTS; seed++) {
            Draft packed = draft(new Draft().borrow(Thread.currentThread(), REDACTOR), seed);
            Draft object = draft(new Draft(), seed);
            assertEquals(object.fields(), packed.fields(), "seed " + seed);
            REDACTOR.redact(packed);
            REDACTOR.redact(object);
            packed.complete();
            object.complete();
            assertArrayEquals(object.toBytes(), packed.toBytes(), "seed " + seed);
            assertEquals(object.fields().toString(), packed.fields().toString(), "seed " + seed);
            changed += packed.fields().toString().contains("[redacted") ? 1 : 0;
        }
        assertTrue(changed > EVENTS / 10 && changed < EVENTS * 9 / 10, changed + " events had secrets");
    }

    @Test
    void conditionsHaveTheSameResultInBothForms() {
        List<Condition> conditions = List.of(
                Condition.parse("lane = A3"),
                Condition.parse("n > 5"),
                Condition.parse("deck.lane exists"),
                Condition.parse("ü = true or k >= 10ms"),
                Condition.parse("booking = B0* and not m exists"));
        int matches = 0;
        for (int seed = 0; seed < EVENTS; seed++) {
            Draft packed = draft(new Draft().borrow(Thread.currentThread(), REDACTOR), seed);
            Draft object = draft(new Draft(), seed);
            for (Condition condition : conditions) {
                assertEquals(condition.matches(object), condition.matches(packed), condition + ", seed " + seed);
                matches += condition.matches(packed) ? 1 : 0;
            }
        }
        assertTrue(matches > EVENTS / 10, matches + " matches");
    }

    /** The array is used for many events, and must not keep what redaction has removed from one of them. */
    @Test
    void bytesNeverContainASecret() {
        FieldBytes fields = new FieldBytes();
        fields.checkedBy(REDACTOR);
        assertFalse(fields.add("note", Kind.TEXT, 0, RandomFields.CARD));
        assertFalse(fields.addText("note", RandomFields.CARD));
        assertFalse(fields.addInteger("note", 4111111111111111L));
        assertFalse(fields.addText("password", "lighthouse"));
        assertFalse(fields.addMissing(Fields.of(f -> f.put("note", RandomFields.CARD))));
        assertFalse(fields.beginTree("password", Kind.GROUP));
        assertTrue(fields.isEmpty());
        for (byte each : fields.bytes) {
            assertEquals(0, each);
        }
    }

    @Test
    void aDraftThatIsUsedAgainDoesNotReferToSecrets() {
        Draft draft = new Draft().borrow(Thread.currentThread(), REDACTOR);
        Fields recorded = draft.fields(f -> f.put("password", "lighthouse")).fields();
        REDACTOR.redact(draft);
        assertTrue(recorded.toString().contains("lighthouse"));
        assertEquals("{password=[redacted secret]}", draft.fields().toString());

        draft.again();

        assertTrue(draft.borrow(Thread.currentThread(), REDACTOR).fields().isEmpty());
        assertNull(draft.replacement());
    }

    @Test
    void aFieldThatAnErrorInterruptsIsMissing() {
        FieldBytes fields = new FieldBytes();
        fields.checkedBy(REDACTOR);
        fields.add("lane", Kind.TEXT, 0, "A3");
        assertThrows(ClassCastException.class, () -> fields.add("deck", Kind.TEXT, 0, 7));
        fields.add("n", Kind.INTEGER, 7, null);
        assertEquals("{lane=A3, n=7}", fields.fields().toString());
    }

    @Test
    void aGroupWhoseEndAnErrorInterruptsIsClosed() {
        FieldBytes fields = new FieldBytes();
        fields.checkedBy(REDACTOR);
        fields.beginTree("deck", Kind.GROUP);
        fields.add("lane", Kind.TEXT, 0, "A3");
        assertEquals("{deck={lane=A3}}", fields.fields().toString());
        Draft draft = new Draft().borrow(Thread.currentThread(), REDACTOR);
        EventBytes bytes = new EventBytes().write(draft, fields, new SharedFields());
        assertEquals(
                "{deck={lane=A3}}",
                EventRecord.of(bytes.copy()).event().fields().toString());
    }

    @Test
    void anotherRedactionDoesNotTrustTheChecksOfTheFirst() {
        Redactor none = new Redactor(List.of());
        Draft draft = new Draft().borrow(Thread.currentThread(), none).fields(f -> f.put("note", RandomFields.CARD));
        none.redact(draft);
        assertEquals(RandomFields.CARD, draft.fields().get("note"));
        REDACTOR.redact(draft);
        assertFalse(draft.complete().fields().toString().contains("4111"));
    }

    /** Returns a draft with the fields and contexts of a seed. */
    private static Draft draft(Draft draft, int seed) {
        Random random = new Random(seed);
        draft.level(Level.INFO).message("lane assigned").fields(f -> RandomFields.put(f, random, 0));
        for (int i = random.nextInt(3); i > 0; i--) {
            draft.missingFields(Fields.of(f -> RandomFields.put(f, random, 2)));
        }
        return random.nextInt(8) > 0 ? draft : draft.fields(f -> RandomFields.put(f, random, 2));
    }
}
