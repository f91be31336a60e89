package dev.graphema.event;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;

import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import org.junit.jupiter.api.Test;

class DraftTest {
    private final Draft draft = new Draft();

    @Test
    void aFinishedEventIsNotAffectedByFurtherUse() {
        Event first =
                draft.message("lane taken").fields(f -> f.put("lane", "A3")).finish();
        Event second = draft.again()
                .message("lane freed")
                .fields(f -> f.put("lane", "B1").put("row", 2))
                .finish();

        assertEquals("lane taken", first.message());
        assertEquals(Map.of("lane", "A3"), first.fields().toMap());
        assertEquals(Map.of("lane", "B1", "row", 2L), second.fields().toMap());
    }

    @Test
    void nothingOfAnEventIsLeftForTheNext() {
        draft.time(1)
                .level(Level.WARN)
                .service("deck")
                .instance("deck-1")
                .logger("skerry.deck")
                .message("m".repeat(20_000))
                .thread("t")
                .run("r")
                .sequence(4)
                .weight(3)
                .held(true)
                .repeat(true)
                .trace(new TraceId(1, 2), new SpanId(3), new SpanId(4))
                .callerDropsTrace(true)
                .failure(Failure.of(new IllegalStateException("x")))
                .fields(f -> f.put("text", "x".repeat(20_000)).group("g", g -> g.put("a", 1)))
                .complete()
                .encoded();

        Draft again = draft.again();

        assertFalse(again.callerDropsTrace());
        assertEquals(new Draft().finish().toString(), again.finish().toString());
        assertEquals(new Draft().toBytes().length, draft.again().toBytes().length);
        assertNull(draft.failure());
    }

    @Test
    void aDraftThatIsGivenBackKeepsNothingThatOnlyOneEventHas() {
        draft.borrow(Thread.currentThread(), SensitiveValues.FIXED)
                .logger("skerry.deck")
                .message("paid with 4111")
                .failure(Failure.of(new IllegalStateException("4111")))
                .fields(f -> f.put("card", "4111"));

        draft.giveBack();

        assertFalse(draft.isBorrowed());
        assertNull(draft.message());
        assertNull(draft.failure());
        assertEquals(Map.of(), draft.fields().toMap());
        assertEquals("skerry.deck", draft.logger());
    }

    @Test
    void aWriterThatIsKeptAddsNothingToALaterEvent() throws InterruptedException {
        FieldWriter[] kept = new FieldWriter[1];
        draft.borrow(Thread.currentThread(), SensitiveValues.FIXED)
                .fields(f -> kept[0] = f)
                .complete();
        kept[0].put("late", 1);
        draft.again();
        kept[0].put("later", 1);
        draft.borrow(Thread.currentThread(), SensitiveValues.FIXED).fields(f -> f.put("lane", "A3"));
        Thread other = new Thread(() -> kept[0].put("foreign", 1)
                .put("object", (Object) "x")
                .put("long", "x".repeat(20_000))
                .group("g", g -> g.put("a", 1)));
        other.start();
        other.join();

        assertEquals(Map.of("lane", "A3"), draft.finish().fields().toMap());
    }

    @Test
    void aTextThatWasRedactedIsNotAmongTheBytes() {
        draft.message("paid with 4111").fields(f -> f.put("card", "4111").put("lane", "A3"));
        draft.rewrite(text -> text.replace("4111", "[redacted]")).complete();
        EventBytes bytes = draft.encoded();
        String array = new String(bytes.array(), StandardCharsets.ISO_8859_1);

        assertFalse(array.contains("4111"), array);
        assertEquals("[redacted]", EventRecord.event(bytes.view()).fields().get("card"));
    }
}
