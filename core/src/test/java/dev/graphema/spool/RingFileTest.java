package dev.graphema.spool;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
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
                assertTrue(ring.put(bytes("record " + put), 0));
                if (put % 7 == 6) {
                    for (int i = 0; i < 7; i++) {
                        assertEquals("record " + taken++, text(take(ring)));
                    }
                    ring.giveBack();
                    assertEquals(0, ring.used());
                }
            }
        }
    }

    @Test
    void aFullRingTakesNoMoreUntilSomethingIsGivenBack() throws IOException {
        try (RingFile ring = open()) {
            int count = 0;
            while (ring.put(bytes("x".repeat(1000)), 0)) {
                count++;
            }
            assertEquals(CAPACITY / 1008, count);
            assertFalse(ring.put(bytes("x"), CAPACITY / 2));
            take(ring);
            assertFalse(ring.put(bytes("x".repeat(1000)), 0), "taken is not given back");
            ring.giveBack();
            assertTrue(ring.put(bytes("x".repeat(1000)), 0));
        }
    }

    @Test
    void whatWasNotTakenIsThereAfterTheEndAndWhatWasTakenIsARepeat() throws IOException {
        RingFile ring = open();
        ring.put(bytes("arrived"), 0);
        take(ring);
        ring.giveBack();
        ring.put(bytes("taken"), 0);
        ring.put(bytes("waiting"), 0);
        take(ring);
        ring.close(); // as after a kill: nothing is given back

        try (RingFile next = open()) {
            next.put(bytes("new"), 0);
            assertEquals("taken", text(next.peek()));
            assertTrue(next.isRepeat());
            next.advance();
            assertEquals("waiting", text(next.peek()));
            assertFalse(next.isRepeat());
            next.advance();
            assertEquals("new", text(take(next)));
            assertNull(take(next));
            next.giveBack();
        }
        try (RingFile last = open()) {
            assertNull(take(last));
        }
        assertEquals(List.of(), errors);
    }

    @Test
    void aRecordThatWasNeverFinishedLeavesNothingBehind() throws IOException {
        RingFile ring = open();
        ring.put(bytes("first"), 0);
        long end = ring.putUpTo();
        ring.close();
        // What the file holds when the process is killed between writing a record and moving the tail.
        write(4096 + end, ByteBuffer.wrap(new byte[] {5, 0, 0, 0, 1, 2, 3, 4, 'h', 'a', 'l', 'f'}));

        try (RingFile next = open()) {
            next.put(bytes("third"), 0);
            assertEquals("first", text(take(next)));
            assertEquals("third", text(take(next)));
            assertNull(take(next));
        }
        assertEquals(List.of(), errors);
    }

    @Test
    void bytesOfARecordWithinAPayloadAreNeverTakenForOne() throws IOException {
        RingFile ring = open();
        ring.put(bytes("forged by a text"), 0);
        ring.close();
        byte[] file = Files.readAllBytes(folder.resolve("ring"));
        byte[] record = Arrays.copyOfRange(file, 4096, 4096 + 24);
        Files.delete(folder.resolve("ring"));

        RingFile other = open();
        long begin = other.putUpTo();
        other.put(ByteBuffer.wrap(record), 0); // the payload begins at a multiple of 8, as records do
        other.put(bytes("behind"), 0);
        other.close();
        // The length is damaged so that the next record seems to begin within the payload.
        write(
                4096 + begin,
                ByteBuffer.allocate(4).order(ByteOrder.nativeOrder()).putInt(0, 0));
        try (RingFile next = open()) {
            assertNull(take(next));
            next.put(bytes("new"), 0);
            assertEquals("new", text(take(next)));
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
                    // whatever was put before the stack was used up
                }
                ring.giveBack();
                assertTrue(ring.put(bytes("after"), 0));
                assertEquals("after", text(take(ring)));
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
                ring.put(bytes("x"), 0);
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
            assertTrue(ring.put(bytes("works"), 0));
            assertEquals("works", text(take(ring)));
        }
        assertEquals(List.of(), errors);
    }

    @Test
    void aTruncatedFileIsKeptUnderAnotherNameAndANewOneIsMade() throws IOException {
        RingFile ring = open();
        ring.put(bytes("somewhere"), 0);
        ring.close();
        byte[] truncated = Arrays.copyOf(Files.readAllBytes(folder.resolve("ring")), 8192);
        Files.write(folder.resolve("ring"), truncated);

        try (RingFile next = open()) {
            assertTrue(next.put(bytes("works"), 0));
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
        ring.put(bytes("first"), 0);
        long begin = ring.putUpTo();
        ring.put(bytes("second"), 0);
        ring.put(bytes("third"), 0);
        ring.close();
        write(4096 + begin + 8, ByteBuffer.wrap(new byte[] {'S'}));

        try (RingFile next = open()) {
            assertEquals("first", text(take(next)));
            assertEquals("third", text(take(next)));
        }
    }

    @Test
    void twoOnOnePathAreKeptApart() throws IOException {
        try (RingFile one = open();
                RingFile two = open()) {
            assertEquals(folder.resolve("ring"), one.path());
            assertEquals(folder.resolve("ring.2"), two.path());
            one.put(bytes("one"), 0);
            assertNull(take(two));
        }
    }

    @Test
    void whatAnotherLeftBehindIsTakenOverMarkedAndItsFileGoes() throws IOException {
        RingFile one = open();
        RingFile two = open();
        two.put(bytes("left"), 0);
        two.put(bytes("behind"), 0);
        two.close();
        one.close();

        try (RingFile next = open()) {
            next.adopt(folder.resolve("ring"), record -> bytes(text(record) + "!"));
            assertEquals("left!", text(take(next)));
            assertEquals("behind!", text(take(next)));
            assertNull(take(next));
            assertTrue(Files.notExists(folder.resolve("ring.2")));
            assertTrue(Files.exists(folder.resolve("ring")), "its own stays");
            try (RingFile busy = open()) {
                busy.put(bytes("in use"), 0);
                next.adopt(folder.resolve("ring"), record -> record);
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
    @Timeout(60)
    void fourThreadsPutWhileOneTakesAndNothingIsLostOrOutOfOrder() throws Exception {
        int each = 20_000;
        try (RingFile ring = open()) {
            Thread[] threads = new Thread[4];
            for (int t = 0; t < threads.length; t++) {
                int thread = t;
                threads[t] = new Thread(() -> {
                    for (int i = 0; i < each; i++) {
                        ByteBuffer record = bytes(thread + ":" + i + "x".repeat(i % 50));
                        while (!ring.put(record.duplicate(), 0)) {
                            Thread.onSpinWait();
                        }
                    }
                });
                threads[t].start();
            }
            int[] next = new int[threads.length];
            int taken = 0;
            while (taken < each * threads.length) {
                ByteBuffer record = take(ring);
                if (record == null) {
                    ring.giveBack();
                    continue;
                }
                String[] parts = text(record).replace("x", "").split(":");
                assertEquals(next[Integer.parseInt(parts[0])]++, Integer.parseInt(parts[1]));
                if (++taken % 64 == 0) {
                    ring.giveBack();
                }
            }
            for (Thread thread : threads) {
                thread.join();
            }
        }
        assertEquals(List.of(), errors);
    }

    private static ByteBuffer take(RingFile ring) {
        ByteBuffer record = ring.peek();
        if (record != null) {
            ring.advance();
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

    private static ByteBuffer bytes(String text) {
        return ByteBuffer.wrap(text.getBytes(StandardCharsets.US_ASCII));
    }

    private static String text(ByteBuffer bytes) {
        return StandardCharsets.US_ASCII.decode(bytes.duplicate()).toString();
    }
}
