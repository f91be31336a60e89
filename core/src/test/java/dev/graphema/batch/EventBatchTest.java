package dev.graphema.batch;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.EventBytes;
import dev.graphema.event.EventRecord;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class EventBatchTest {
    @Test
    void eventsAreReturnedInTheirOrder() {
        EventBatch batch = batch(0, 200);
        assertEquals(200, batch.size());
        assertEquals(numbers(0, 200), messages(batch));
        assertThrows(IndexOutOfBoundsException.class, () -> batch.get(200));
    }

    @Test
    void aPartOfAPartHasTheEventsBetween() {
        EventBatch part = batch(0, 200).part(50, 150).part(10, 20);
        assertEquals(numbers(60, 70), messages(part));
        assertEquals(List.of(), messages(part.part(3, 3)));
        assertThrows(IndexOutOfBoundsException.class, () -> part.part(5, 11));
        assertThrows(IndexOutOfBoundsException.class, () -> part.get(10));
    }

    @Test
    void theLengthIsThatOfTheEventsOnly() {
        EventBatch batch = batch(0, 20);
        assertEquals(
                batch.length(), batch.part(0, 7).length() + batch.part(7, 20).length());
        batch.removeFirst(7);
        assertEquals(batch(7, 20).length(), batch.length());
    }

    @Test
    void whatRemainsAfterTheFirstOnesIsUnchanged() {
        EventBatch batch = batch(0, 20);
        batch.removeFirst(0);
        batch.removeFirst(7);
        assertEquals(numbers(7, 20), messages(batch));
        batch.add(new EventBytes().write(event(20)));
        batch.removeFirst(14);
        assertTrue(batch.isEmpty());
        batch.add(new EventBytes().write(event(1)));
        assertEquals(numbers(1, 2), messages(batch));
    }

    @Test
    void anEventIsCopiedFromTheMiddleOfAnArray() {
        byte[] bytes = new EventBytes().write(event(5)).copy();
        byte[] array = new byte[bytes.length + 9];
        System.arraycopy(bytes, 0, array, 4, bytes.length);
        EventBatch batch = new EventBatch();
        batch.add(new EventRecord().read(array, 4, 4 + bytes.length));
        assertEquals(numbers(5, 6), messages(batch));
    }

    @Test
    void aClearedBatchTakesOtherEventsAlsoAfterManyBytes() {
        EventBatch batch = new EventBatch();
        EventBytes large =
                new EventBytes().write(new Draft().message("x".repeat(16_000)).finish());
        for (int i = 0; i < 100; i++) {
            batch.add(large);
        }
        assertEquals(16_000, batch.get(99).event().message().length());
        batch.clear();
        assertTrue(batch.isEmpty());
        assertEquals(0, batch.length());
        batch.add(new EventBytes().write(event(2)));
        assertEquals(numbers(2, 3), messages(batch));
        assertFalse(batch.isEmpty());
    }

    private static EventBatch batch(int from, int to) {
        return EventBatch.of(
                IntStream.range(from, to).mapToObj(EventBatchTest::event).toArray(Event[]::new));
    }

    private static Event event(int number) {
        return new Draft().time(number).message(Integer.toString(number)).finish();
    }

    private static List<String> numbers(int from, int to) {
        return IntStream.range(from, to).mapToObj(Integer::toString).toList();
    }

    private static List<String> messages(EventBatch batch) {
        return IntStream.range(0, batch.size())
                .mapToObj(batch::get)
                .map(event -> event.string(event.message()))
                .toList();
    }
}
