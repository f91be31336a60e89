package dev.graphema.segments.log;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class LogLinesTest {
    private static final List<String> BATCHES = List.of("one\ntwo\n", "three\n", "four\nfive\nsix\n");

    @TempDir
    private Path folder;

    private Path log;
    private byte[] written;
    private final List<String> damage = new ArrayList<>();

    @BeforeEach
    void write() throws IOException {
        log = folder.resolve("0000000001.glog");
        try (LogWriter writer = new LogWriter(log, Disk.REAL)) {
            for (String batch : BATCHES) {
                byte[] bytes = batch.getBytes(StandardCharsets.UTF_8);
                writer.add(new LogBatch().add(bytes, 0, bytes.length));
            }
        }
        written = Files.readAllBytes(log);
    }

    @Test
    void linesComeBackAsTheyWereAdded() throws IOException {
        assertEquals(String.join("", BATCHES), read());
        assertEquals(List.of(), damage);
    }

    @Test
    void aBatchIsUsedAgainAfterALargeOne() throws IOException {
        log = folder.resolve("0000000003.glog");
        LogBatch batch = new LogBatch();
        StringBuilder all = new StringBuilder();
        try (LogWriter writer = new LogWriter(log, Disk.REAL)) {
            for (int count : new int[] {1, 500_000, 2, 100}) {
                for (int i = 0; i < count; i++) {
                    byte[] line = (i + "\n").getBytes(StandardCharsets.UTF_8);
                    batch.add(line, 0, line.length);
                    all.append(i).append('\n');
                }
                writer.add(batch);
                batch.clear();
            }
        }
        assertEquals(all.toString(), read());
        assertEquals(List.of(), damage);
    }

    @Test
    void everyFlippedBitCostsAtMostItsBatchAndIsReported() throws IOException {
        for (int bit = 0; bit < written.length * Byte.SIZE; bit++) {
            byte[] flipped = written.clone();
            flipped[bit / Byte.SIZE] ^= (byte) (1 << bit % Byte.SIZE);
            Files.write(log, flipped);
            damage.clear();
            String lines = read();
            assertFalse(damage.isEmpty(), "bit " + bit);
            long left = BATCHES.stream().filter(lines::contains).count();
            assertTrue(left >= BATCHES.size() - 1, "bit " + bit + ": " + lines);
            assertEquals(
                    lines,
                    String.join("", BATCHES.stream().filter(lines::contains).toList()),
                    "bit " + bit);
        }
    }

    @Test
    void damageInALongLogCostsAtMostItsBatch() throws IOException {
        Random random = new Random(7);
        Path longLog = folder.resolve("0000000002.glog");
        List<byte[]> batches = new ArrayList<>();
        try (LogWriter writer = new LogWriter(longLog, Disk.REAL)) {
            for (int i = 0; i < 40; i++) {
                byte[] batch = new byte[1 + random.nextInt(1 << random.nextInt(20))];
                random.nextBytes(batch);
                batches.add(batch);
                writer.add(new LogBatch().add(batch, 0, batch.length));
            }
        }
        byte[] whole = Files.readAllBytes(longLog);
        log = longLog;
        assertEquals(batches.size(), readBatches(batches, -1));
        assertEquals(List.of(), damage);
        for (int round = 0; round < 50; round++) {
            byte[] flipped = whole.clone();
            int place = LogForm.HEADER + random.nextInt(whole.length - LogForm.HEADER);
            flipped[place] ^= (byte) (1 << random.nextInt(Byte.SIZE));
            Files.write(longLog, flipped);
            damage.clear();
            int hit = 0;
            for (int end = LogForm.HEADER; (end += LogForm.BATCH_HEADER + batches.get(hit).length) <= place; ) {
                hit++;
            }
            assertEquals(batches.size() - 1, readBatches(batches, hit), "bit of " + place);
            assertEquals(1, damage.size(), "bit of " + place);
        }
    }

    /** Returns how many batches are read, which must be these without one. */
    private int readBatches(List<byte[]> batches, int without) throws IOException {
        try (LogLines lines = new LogLines(log, 0, damage::add)) {
            int count = 0;
            int next = 0;
            ByteBuffer batch;
            while ((batch = lines.nextBatch()) != null) {
                next += next == without ? 1 : 0;
                assertEquals(ByteBuffer.wrap(batches.get(next++)), batch);
                count++;
            }
            return count;
        }
    }

    @Test
    void zerosBehindBatchesAreDamageAndAnEmptyLogIsNot() throws IOException {
        Files.write(log, Arrays.copyOf(written, written.length + 300_000));
        assertEquals(String.join("", BATCHES), read());
        assertEquals(1, damage.size(), damage.toString());
        damage.clear();
        Files.write(log, new byte[300_000]);
        assertEquals("", read());
        assertEquals(List.of(), damage);
    }

    @Test
    void anIncompleteBatchAtTheEndIsNoDamage() throws IOException {
        int lastBatch = written.length - LogForm.BATCH_HEADER - BATCHES.get(2).length();
        for (int length = 0; length < written.length; length++) {
            Files.write(log, Arrays.copyOf(written, length));
            String lines = read();
            assertTrue(String.join("", BATCHES).startsWith(lines), lines);
            assertTrue(length < lastBatch || lines.equals("one\ntwo\nthree\n"), length + ": " + lines);
        }
        assertEquals(List.of(), damage);
    }

    @Test
    void linesThatAreAddedLaterAreReadFromWhereReadingEnded() throws IOException {
        int first = LogForm.HEADER + LogForm.BATCH_HEADER + BATCHES.get(0).length();
        Files.write(log, Arrays.copyOf(written, first + 5));
        long offset;
        try (LogLines lines = new LogLines(log, 0, damage::add)) {
            assertEquals(BATCHES.get(0), new String(lines.readAllBytes(), StandardCharsets.UTF_8));
            offset = lines.offset();
        }
        assertEquals(first, offset);
        Files.write(log, written);
        try (LogLines lines = new LogLines(log, offset, damage::add)) {
            assertEquals(BATCHES.get(1) + BATCHES.get(2), new String(lines.readAllBytes(), StandardCharsets.UTF_8));
        }
        assertEquals(List.of(), damage);
    }

    @Test
    void aLogIsNeverOverwritten() {
        assertThrows(IOException.class, () -> new LogWriter(log, Disk.REAL));
    }

    private String read() throws IOException {
        try (LogLines lines = new LogLines(log, 0, damage::add)) {
            return new String(lines.readAllBytes(), StandardCharsets.UTF_8);
        }
    }
}
