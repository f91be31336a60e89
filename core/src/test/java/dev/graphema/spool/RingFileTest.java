package dev.graphema.spool;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class RingFileTest {
    private static final int CAPACITY = 64 * 1024;

    @TempDir
    Path folder;

    private final List<String> errors = new ArrayList<>();

    @Test
    void whatWasPutIsTakenInOrderThroughManyRounds() throws IOException {
        try (RingFile ring = open()) {
            int taken = 0;
            for (int put = 0; put < 10_000; put++) {
                assertTrue(put(ring, "record " + put, 0));
                if (put % 7 == 6) {
                    for (int i = 0; i < 7; i++) {
                        assertEquals("record " + taken++, take(ring));
                    }
                    ring.ring().giveBack();
                    assertEquals(0, ring.ring().used());
                }
            }
        }
    }

    @Test
    void aFullRingTakesNoMoreUntilSomethingIsGivenBack() throws IOException {
        try (RingFile ring = open()) {
            int count = 0;
            while (put(ring, "x".repeat(1000), 0)) {
                count++;
            }
            assertEquals(CAPACITY / 1016, count);
            assertFalse(put(ring, "x", CAPACITY / 2));
            take(ring);
            assertFalse(put(ring, "x".repeat(1000), 0), "taken is not given back");
            ring.ring().giveBack();
            assertTrue(put(ring, "x".repeat(1000), 0));
        }
    }

    @Test
    void whatWasNotTakenIsThereAfterTheEndAndWhatWasTakenIsARepeat() throws IOException {
        RingFile ring = open();
        put(ring, "arrived", 0);
        take(ring);
        ring.ring().giveBack();
        put(ring, "taken", 0);
        put(ring, "waiting", 0);
        take(ring);
        ring.close(); // as after a kill: nothing is given back

        try (RingFile next = open()) {
            put(next, "new", 0);
            assertEquals("taken", peek(next));
            assertTrue(next.ring().isRepeat());
            advance(next);
            assertEquals("waiting", peek(next));
            assertFalse(next.ring().isRepeat());
            advance(next);
            assertEquals("new", take(next));
            assertNull(take(next));
            next.ring().giveBack();
        }
        try (RingFile last = open()) {
            assertNull(take(last));
        }
        assertEquals(List.of(), errors);
    }

    @Test
    void aRecordThatWasNeverFinishedLeavesNothingBehind() throws IOException {
        RingFile ring = open();
        put(ring, "first", 0);
        long begin = ring.ring().putUpTo();
        put(ring, "half of it", 0);
        put(ring, "second", 0);
        ring.close();
        // What the file holds if the process is killed after a place was claimed, and while the record is copied.
        write(4096 + begin, ByteBuffer.allocate(8));

        try (RingFile next = open()) {
            put(next, "third", 0);
            assertEquals("first", take(next));
            assertEquals("second", take(next));
            assertEquals("third", take(next));
            assertNull(take(next));
        }
        assertEquals(List.of(), errors);
    }

    @Test
    void aPageThatTheEndOfTheMachineHasLostIsReported() throws IOException {
        RingFile ring = open();
        put(ring, "first", 0);
        long begin = ring.ring().putUpTo();
        put(ring, "x".repeat(8000), 0);
        put(ring, "third", 0);
        ring.close();
        write(4096 + begin, ByteBuffer.allocate(8016));

        try (RingFile next = open()) {
            assertEquals("first", take(next));
            assertEquals("third", take(next));
            assertNull(take(next));
        }
        assertEquals(1, errors.size(), errors.toString());
        assertTrue(errors.get(0).startsWith("8016 bytes in "), errors.toString());
    }

    @Test
    void whatTheEndOfTheMachineHasLeftInFreeSpaceIsNeverTaken() throws IOException {
        RingFile ring = open();
        put(ring, "first", 0);
        long end = ring.ring().putUpTo();
        ring.close();
        write(4096 + end, ByteBuffer.wrap(new byte[] {5, 0, 0, 0, 1, 2, 3, 4, 'o', 'l', 'd'}));

        try (RingFile next = open()) {
            assertEquals("first", take(next));
            assertNull(take(next));
            put(next, "second", 0);
            assertEquals("second", take(next));
        }
    }

    @Test
    void bytesOfARecordWithinAPayloadAreNeverTakenForOne() throws IOException {
        RingFile ring = open();
        put(ring, "forged by a text", 0);
        ring.close();
        byte[] file = Files.readAllBytes(folder.resolve("ring"));
        byte[] record = Arrays.copyOfRange(file, 4096, 4096 + 32);
        Files.delete(folder.resolve("ring"));

        RingFile other = open();
        long begin = other.ring().putUpTo();
        other.ring().put(record, record.length, 0); // the payload begins at a multiple of 8, as records do
        put(other, "behind", 0);
        other.close();
        // The state is damaged, so that the next one is searched for, also within the payload.
        write(4096 + begin, ByteBuffer.wrap(new byte[] {1, 2, 3, 4, 5, 6, 7, 8}));
        try (RingFile next = open()) {
            assertEquals("behind", take(next));
            assertNull(take(next));
            put(next, "new", 0);
            assertEquals("new", take(next));
        }
        assertEquals(1, errors.size(), errors.toString());
        assertTrue(errors.get(0).contains("bytes in " + folder.resolve("ring") + " were damaged"), errors.toString());
    }

    @Test
    void aStackOverflowInTheMiddleOfAPutDoesNotStopTheRing() throws IOException {
        try (RingFile ring = open()) {
            for (int round = 0; round < 50; round++) {
                putAtTheEndOfTheStack(ring);
                while (take(ring) != null) {
                    // what was put before the stack was used up
                }
                ring.ring().giveBack();
                assertTrue(put(ring, "after", 0));
                assertEquals("after", take(ring));
            }
        }
        assertEquals(List.of(), errors);
    }

    /** Uses up the stack, so that the error comes at another instruction each time, and inside of put sooner or later. */
    private static int putAtTheEndOfTheStack(RingFile ring) {
        try {
            return putAtTheEndOfTheStack(ring) + 1;
        } catch (StackOverflowError e) {
            try {
                put(ring, "x", 0);
            } catch (StackOverflowError again) {
                return 0;
            }
            return 0;
        }
    }

    @Test
    void aFileThatWasBeingMadeWhenItsProcessEndedIsMadeAnew() throws IOException {
        Files.write(folder.resolve("ring"), new byte[10_000]);
        try (RingFile ring = open()) {
            assertTrue(put(ring, "works", 0));
            assertEquals("works", take(ring));
        }
        assertEquals(List.of(), errors);
    }

    @Test
    void aTruncatedFileIsKeptUnderAnotherNameAndANewOneIsMade() throws IOException {
        RingFile ring = open();
        put(ring, "somewhere", 0);
        ring.close();
        byte[] truncated = Arrays.copyOf(Files.readAllBytes(folder.resolve("ring")), 8192);
        Files.write(folder.resolve("ring"), truncated);

        try (RingFile next = open()) {
            assertTrue(put(next, "works", 0));
        }
        assertEquals(
                List.of(folder.resolve("ring") + " is truncated: it has 8192 bytes (expected: 69632); it is renamed to "
                        + folder.resolve("ring.unreadable") + ", and a new one is made"),
                errors);
        assertArrayEquals(truncated, Files.readAllBytes(folder.resolve("ring.unreadable")));
    }

    @Test
    void aDamagedRecordIsSkippedAlone() throws IOException {
        RingFile ring = open();
        put(ring, "first", 0);
        long begin = ring.ring().putUpTo();
        put(ring, "second", 0);
        put(ring, "third", 0);
        ring.close();
        write(4096 + begin + 16, ByteBuffer.wrap(new byte[] {'S'}));

        try (RingFile next = open()) {
            assertEquals("first", take(next));
            assertEquals("third", take(next));
        }
    }

    @Test
    void twoOnOnePathAreKeptApart() throws IOException {
        try (RingFile one = open();
                RingFile two = open()) {
            assertEquals(folder.resolve("ring"), one.path());
            assertEquals(folder.resolve("ring.2"), two.path());
            put(one, "one", 0);
            assertNull(take(two));
        }
    }

    @Test
    void whatAnotherLeftBehindIsTakenOverMarkedAndItsFileGoes() throws IOException {
        RingFile one = open();
        RingFile two = open();
        put(two, "left", 0);
        put(two, "behind", 0);
        two.close();
        one.close();

        try (RingFile next = open()) {
            next.adopt(folder.resolve("ring"), record -> record[0] = '!');
            assertEquals("!eft", take(next));
            assertEquals("!ehind", take(next));
            assertNull(take(next));
            assertTrue(Files.notExists(folder.resolve("ring.2")));
            assertTrue(Files.exists(folder.resolve("ring")), "the ring of the process itself remains");
            try (RingFile busy = open()) {
                put(busy, "in use", 0);
                next.adopt(folder.resolve("ring"), record -> {});
                assertNull(take(next));
            }
        }
        assertEquals(List.of(), errors);
    }

    @Test
    void aFileThatIsNoRingOrOfAnotherVersionIsKeptAndReported() throws IOException {
        Files.writeString(folder.resolve("ring"), "something else".repeat(1000));
        open().close();
        write(8, ByteBuffer.wrap(new byte[] {9, 9, 9, 9}));
        open().close();

        assertTrue(errors.get(0).contains("is not a hand-over file"), errors.toString());
        assertTrue(errors.get(1).contains("is of version"), errors.toString());
        assertTrue(Files.exists(folder.resolve("ring.unreadable.2")));
    }

    @Test
    void fourThreadsPutWhileOneTakesAndNothingIsLostOrOutOfOrder() throws Exception {
        int each = 20_000;
        try (RingFile ring = open()) {
            Thread[] threads = new Thread[4];
            for (int t = 0; t < threads.length; t++) {
                int thread = t;
                threads[t] = new Thread(() -> {
                    for (int i = 0; i < each; i++) {
                        String record = thread + ":" + i + "x".repeat(i % 50);
                        while (!put(ring, record, 0)) {
                            Thread.onSpinWait();
                        }
                    }
                });
                threads[t].start();
            }
            int[] next = new int[threads.length];
            int taken = 0;
            while (taken < each * threads.length) {
                String record = take(ring);
                if (record == null) {
                    ring.ring().giveBack();
                    continue;
                }
                String[] parts = record.replace("x", "").split(":");
                assertEquals(next[Integer.parseInt(parts[0])]++, Integer.parseInt(parts[1]));
                if (++taken % 64 == 0) {
                    ring.ring().giveBack();
                }
            }
            for (Thread thread : threads) {
                thread.join();
            }
        }
        assertEquals(List.of(), errors);
    }

    private static boolean put(RingFile file, String text, int leaving) {
        byte[] bytes = text.getBytes(StandardCharsets.US_ASCII);
        return file.ring().put(bytes, bytes.length, leaving);
    }

    private static String peek(RingFile file) {
        byte[] record = new byte[file.ring().peek()];
        if (record.length == 0) {
            return null;
        }
        file.ring().copy(record, 0, record.length);
        return new String(record, StandardCharsets.US_ASCII);
    }

    private static void advance(RingFile file) {
        file.ring().advance(file.ring().peek());
    }

    private static String take(RingFile file) {
        String record = peek(file);
        if (record != null) {
            advance(file);
        }
        return record;
    }

    private void write(long at, ByteBuffer bytes) throws IOException {
        try (FileChannel file = FileChannel.open(folder.resolve("ring"), StandardOpenOption.WRITE)) {
            file.write(bytes, at);
        }
    }

    private RingFile open() throws IOException {
        return RingFile.open(folder.resolve("ring"), CAPACITY, errors::add);
    }
}
