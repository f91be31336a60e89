package dev.graphema.spool;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

class RingFileTest {
    private static final int CAPACITY = 64 * 1024;

    @TempDir
    Path folder;

    private final List<String> troubles = new ArrayList<>();

    @Test
    void whatWasPutIsTakenInOrderThroughManyRounds() throws IOException {
        try (RingFile ring = open()) {
            int taken = 0;
            for (int put = 0; put < 10_000; put++) {
                assertTrue(ring.put(bytes("record " + put), 0));
                if (put % 7 == 6) {
                    for (int i = 0; i < 7; i++) {
                        assertEquals("record " + taken++, text(ring.take()));
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
            ring.take();
            assertFalse(ring.put(bytes("x".repeat(1000)), 0), "taken is not given back");
            ring.giveBack();
            assertTrue(ring.put(bytes("x".repeat(1000)), 0));
        }
    }

    @Test
    void whatWasNotTakenIsThereAfterTheEndAndWhatWasTakenIsARepeat() throws IOException {
        RingFile ring = open();
        ring.put(bytes("arrived"), 0);
        ring.take();
        ring.giveBack();
        ring.put(bytes("taken"), 0);
        ring.put(bytes("waiting"), 0);
        ring.take();
        ring.close(); // as after a kill: nothing is given back

        try (RingFile next = open()) {
            next.put(bytes("new"), 0);
            assertEquals("taken", text(next.take()));
            assertTrue(next.lastIsRepeat());
            assertEquals("waiting", text(next.take()));
            assertFalse(next.lastIsRepeat());
            assertEquals("new", text(next.take()));
            assertNull(next.take());
            next.giveBack();
        }
        try (RingFile last = open()) {
            assertNull(last.take());
        }
        assertEquals(List.of(), troubles);
    }

    @Test
    void aClaimThatWasNeverFinishedIsPassedOver() throws IOException {
        RingFile ring = open();
        ring.put(bytes("first"), 0);
        long begin = ring.putUpTo();
        ring.put(bytes("never finished"), 0);
        ring.put(bytes("third"), 0);
        ring.close();
        // What the file holds when the process is killed between the claim and the last write.
        try (var file =
                java.nio.channels.FileChannel.open(folder.resolve("ring"), java.nio.file.StandardOpenOption.WRITE)) {
            ByteBuffer claimed = ByteBuffer.allocate(4).order(java.nio.ByteOrder.nativeOrder());
            file.write(claimed.putInt(0, -"never finished".length()), 4096 + begin);
        }

        try (RingFile next = open()) {
            assertEquals("first", text(next.take()));
            assertEquals("third", text(next.take()));
            assertNull(next.take());
        }
    }

    @Test
    void aDamagedRecordIsToldAndPassedOver() throws IOException {
        RingFile ring = open();
        ring.put(bytes("first"), 0);
        long begin = ring.putUpTo();
        ring.put(bytes("second"), 0);
        ring.put(bytes("third"), 0);
        ring.close();
        try (var file =
                java.nio.channels.FileChannel.open(folder.resolve("ring"), java.nio.file.StandardOpenOption.WRITE)) {
            file.write(ByteBuffer.wrap(new byte[] {'S'}), 4096 + begin + 8);
        }

        try (RingFile next = open()) {
            assertEquals("first", text(next.take()));
            assertEquals("third", text(next.take()));
        }
        assertFalse(troubles.isEmpty());
    }

    @Test
    void twoOnOnePathAreKeptApart() throws IOException {
        try (RingFile one = open();
                RingFile two = open()) {
            assertEquals(folder.resolve("ring"), one.path());
            assertEquals(folder.resolve("ring.2"), two.path());
            one.put(bytes("one"), 0);
            assertNull(two.take());
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
            assertEquals("left!", text(next.take()));
            assertEquals("behind!", text(next.take()));
            assertNull(next.take());
            assertTrue(Files.notExists(folder.resolve("ring.2")));
            assertTrue(Files.exists(folder.resolve("ring")), "its own stays");
            try (RingFile busy = open()) {
                busy.put(bytes("in use"), 0);
                next.adopt(folder.resolve("ring"), record -> record);
                assertNull(next.take());
            }
        }
        assertEquals(List.of(), troubles);
    }

    @Test
    void aFileThatIsNoRingOrOfAnotherVersionIsRefused() throws IOException {
        Files.write(folder.resolve("ring"), new byte[10_000]);
        assertTrue(assertThrows(IOException.class, this::open).getMessage().contains("is no hand-over file"));

        Files.delete(folder.resolve("ring"));
        open().close();
        try (var file =
                java.nio.channels.FileChannel.open(folder.resolve("ring"), java.nio.file.StandardOpenOption.WRITE)) {
            file.write(ByteBuffer.wrap(new byte[] {9, 9, 9, 9}), 8);
        }
        assertTrue(assertThrows(IOException.class, this::open).getMessage().contains("is of version"));
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
                ByteBuffer record = ring.take();
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
        assertEquals(List.of(), troubles);
    }

    private RingFile open() throws IOException {
        return RingFile.open(folder.resolve("ring"), CAPACITY, troubles::add);
    }

    private static ByteBuffer bytes(String text) {
        return ByteBuffer.wrap(text.getBytes(StandardCharsets.US_ASCII));
    }

    private static String text(ByteBuffer bytes) {
        return StandardCharsets.US_ASCII.decode(bytes.duplicate()).toString();
    }
}
