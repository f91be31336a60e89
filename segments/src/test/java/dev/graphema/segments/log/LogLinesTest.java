package dev.graphema.segments.log;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
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
                writer.add(bytes, 0, bytes.length);
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
