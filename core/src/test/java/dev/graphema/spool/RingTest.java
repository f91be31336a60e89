package dev.graphema.spool;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;

class RingTest {
    private static final int CAPACITY = 64 * 1024;

    private final Ring ring = Ring.inMemory(CAPACITY);

    @Test
    void recordsOfAllLengthsComeBackThroughManyRounds() {
        Random random = new Random(1);
        byte[] payload = new byte[ring.longest()];
        random.nextBytes(payload);
        for (int i = 0; i < 5_000; i++) {
            int length = 1 + random.nextInt(random.nextInt(10) == 0 ? ring.longest() : 500);
            assertTrue(ring.put(payload, length, 0));
            assertEquals(length, ring.peek());
            byte[] taken = new byte[length];
            ring.copy(taken, 0, length);
            assertArrayEquals(Arrays.copyOf(payload, length), taken);
            ring.advance(length);
            ring.giveBack();
            assertEquals(0, ring.used());
        }
    }

    @Test
    void aRecordThatIsTooLongForTheRingIsRefused() {
        assertFalse(ring.put(new byte[CAPACITY], ring.longest() + 1, 0));
        assertEquals(0, ring.peek());
    }

    @Test
    void capacitiesThatAreNoPowerOfTwoAreRefused() {
        assertEquals(
                "capacity: 100000 (expected: a power of two from 65536 up)",
                assertThrows(IllegalArgumentException.class, () -> Ring.inMemory(100_000))
                        .getMessage());
    }

    @Test
    void aPlaceThatWasClaimedInVainIsSkipped() {
        byte[] tooShort = new byte[10];
        assertTrue(ring.put(new byte[] {1}, 1, 0));
        assertThrows(IndexOutOfBoundsException.class, () -> ring.put(tooShort, 20, 0));
        assertTrue(ring.put(new byte[] {2}, 1, 0));
        for (byte expected = 1; expected <= 2; expected++) {
            byte[] taken = new byte[1];
            assertEquals(1, ring.peek());
            ring.copy(taken, 0, 1);
            assertEquals(expected, taken[0]);
            ring.advance(1);
        }
        assertEquals(0, ring.peek());
    }

    @Test
    void manyThreadsPutWhileOneTakesAndNothingIsLostOrOutOfOrder() throws InterruptedException {
        int each = 50_000;
        Thread[] threads = new Thread[8];
        for (int t = 0; t < threads.length; t++) {
            byte thread = (byte) t;
            threads[t] = new Thread(() -> {
                byte[] record = new byte[80];
                Arrays.fill(record, thread);
                for (int i = 0; i < each; i++) {
                    record[0] = (byte) i;
                    while (!ring.put(record, 2 + i % 79, 0)) {
                        Thread.onSpinWait();
                    }
                }
            });
            threads[t].start();
        }
        int[] next = new int[threads.length];
        byte[] record = new byte[80];
        for (int taken = 0; taken < each * threads.length; ) {
            int length = ring.peek();
            if (length == 0) {
                ring.giveBack();
                continue;
            }
            ring.copy(record, 0, length);
            int thread = record[1];
            for (int i = 1; i < length; i++) {
                assertEquals(thread, record[i]);
            }
            assertEquals(2 + next[thread] % 79, length);
            assertEquals((byte) next[thread]++, record[0]);
            ring.advance(length);
            if (++taken % 64 == 0) {
                ring.giveBack();
            }
        }
        for (Thread thread : threads) {
            thread.join();
        }
    }
}
