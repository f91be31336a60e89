package dev.graphema.spool;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.EventBytes;
import dev.graphema.event.EventRecord;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class SpoolTest {
    private static final long TOTAL = 1024 * 1024;

    @TempDir
    Path folder;

    private final List<String> errors = new ArrayList<>();

    @Test
    void whatWasAddedComesOutInOrderAndOnceDelivered() throws IOException {
        try (Spool spool = open()) {
            assertTrue(spool.isEmpty());
            add(spool, 0, 250);
            assertFalse(spool.isEmpty());
            assertEquals(numbers(0, 100), oldest(spool, 100));
            assertEquals(numbers(0, 100), oldest(spool, 100), "not delivered yet");
            spool.delivered();
            assertEquals(numbers(100, 200), oldest(spool, 100));
            spool.delivered();
            assertEquals(numbers(200, 250), oldest(spool, 100));
            spool.delivered();
            assertTrue(spool.isEmpty());
            assertEquals(0, spool.used());
        }
    }

    @Test
    void aRestartFindsWhatWasNotDelivered() throws IOException {
        try (Spool spool = open()) {
            add(spool, 0, 20);
            oldest(spool, 5);
            spool.delivered();
        }
        try (Spool spool = open()) {
            add(spool, 20, 25);
            assertEquals(numbers(5, 25), drained(spool));
        }
        try (Spool spool = open()) {
            assertTrue(spool.isEmpty());
        }
    }

    @Test
    void manySegmentsAreLeftBehindOneByOne() throws IOException {
        try (Spool spool = open()) {
            int count = 0;
            try {
                while (true) {
                    add(spool, count, count + 1);
                    count++;
                }
            } catch (IOException e) {
                assertTrue(e.getMessage().contains("is full"), e.getMessage());
            }
            assertTrue(count > 8_000, "took " + count);
            assertTrue(segments() > 10, "made " + segments());
            assertEquals(numbers(0, count), drained(spool));
            assertEquals(0, segments());
            add(spool, count, count + 1); // there is room again
        }
    }

    @Test
    void theNumberOfASegmentIsNeverUsedAgain() throws IOException {
        try (Spool spool = open()) {
            add(spool, 0, 20);
            assertEquals(numbers(0, 20), drained(spool));
            add(spool, 20, 25); // as after a kill between the deletion of a segment and what is written behind it
        }
        try (Spool spool = open()) {
            assertEquals(numbers(20, 25), drained(spool));
        }
        assertTrue(Files.notExists(folder.resolve("spool/0000000000000001.events")));
    }

    @Test
    void aRecordOfANewerVersionIsReportedOnceAndDoesNotStopTheOthers() throws IOException {
        try (Spool spool = open()) {
            add(spool, 0, 3);
        }
        Path segment = folder.resolve("spool/0000000000000001.events");
        byte[] bytes = Files.readAllBytes(segment);
        int first = 16 + 8; // behind the segment's header and the record's
        int length = java.nio.ByteBuffer.wrap(bytes).getInt(16);
        bytes[first] = 99;
        java.util.zip.CRC32C crc = new java.util.zip.CRC32C();
        crc.update(bytes, first, length);
        java.nio.ByteBuffer.wrap(bytes).putInt(20, (int) crc.getValue());
        Files.write(segment, bytes);

        try (Spool spool = open()) {
            assertEquals(numbers(1, 3), drained(spool));
            assertTrue(spool.isEmpty());
        }
        assertEquals(1, errors.size(), errors::toString);
    }

    @Test
    void halfARecordAtTheEndIsCutOff() throws IOException {
        try (Spool spool = open()) {
            add(spool, 0, 3);
        }
        Path segment = folder.resolve("spool/0000000000000001.events");
        try (FileChannel file = FileChannel.open(segment, StandardOpenOption.WRITE)) {
            file.truncate(Files.size(segment) - 5);
        }
        try (Spool spool = open()) {
            add(spool, 3, 4);
            assertEquals(List.of("0", "1", "3"), drained(spool));
        }
        assertEquals(1, errors.size(), errors::toString);
    }

    @Test
    void aDamagedSegmentCostsWhatIsBehindTheDamageAndNotTheNextOnes() throws IOException {
        int count = 0;
        try (Spool spool = open()) {
            while (segments() < 3) {
                add(spool, count, ++count);
            }
        }
        try (FileChannel file =
                FileChannel.open(folder.resolve("spool/0000000000000001.events"), StandardOpenOption.WRITE)) {
            file.write(ByteBuffer.wrap(new byte[] {1, 2, 3}), 40_000);
        }
        try (Spool spool = open()) {
            List<String> left = drained(spool);
            assertTrue(left.size() > count / 2, left.size() + " of " + count);
            assertEquals(String.valueOf(count - 1), left.get(left.size() - 1));
        }
        assertTrue(errors.toString().contains("damaged"), errors::toString);
    }

    @Test
    void aPositionThatWasHalfWrittenMeansThatSomethingComesTwice() throws IOException {
        try (Spool spool = open()) {
            add(spool, 0, 10);
            oldest(spool, 5);
            spool.delivered();
        }
        Files.write(folder.resolve("spool/position"), new byte[] {0, 0, 0});
        try (Spool spool = open()) {
            assertEquals(numbers(0, 10), drained(spool));
        }
    }

    @Test
    void twoOnOneFolderAreKeptApart() throws IOException {
        try (Spool one = open();
                Spool two = open()) {
            add(one, 1, 2);
            assertTrue(two.isEmpty());
            assertTrue(Files.isDirectory(folder.resolve("spool.2")));
        }
    }

    @Test
    void aSegmentOfAnotherVersionIsLeftWhereItIs() throws IOException {
        try (Spool spool = open()) {
            add(spool, 0, 1);
        }
        Path segment = folder.resolve("spool/0000000000000001.events");
        try (FileChannel file = FileChannel.open(segment, StandardOpenOption.WRITE)) {
            file.write(ByteBuffer.wrap(new byte[] {0, 0, 0, 7}), 8);
        }
        try (Spool spool = open()) {
            assertTrue(spool.isEmpty());
        }
        assertTrue(Files.exists(segment));
        assertTrue(errors.get(0).contains("is of version 7 (expected: 1)"), errors::toString);
    }

    private long segments() throws IOException {
        try (Stream<Path> files = Files.list(folder.resolve("spool"))) {
            return files.filter(file -> file.toString().endsWith(".events")).count();
        }
    }

    private static List<String> drained(Spool spool) throws IOException {
        List<String> all = new ArrayList<>();
        List<String> events;
        while (!(events = oldest(spool, 64)).isEmpty()) {
            all.addAll(events);
            spool.delivered();
        }
        return all;
    }

    private static void add(Spool spool, int from, int to) throws IOException {
        for (int i = from; i < to; i++) {
            spool.add(EventRecord.of(new EventBytes().write(event(i)).copy()));
        }
    }

    private static Event event(int number) {
        return new Draft().time(number).message(Integer.toString(number)).finish();
    }

    private static List<String> numbers(int from, int to) {
        return java.util.stream.IntStream.range(from, to)
                .mapToObj(Integer::toString)
                .toList();
    }

    private static List<String> oldest(Spool spool, int most) throws IOException {
        List<String> messages = new ArrayList<>();
        spool.oldest(most, TOTAL, event -> messages.add(event.string(event.message())));
        return messages;
    }

    private Spool open() throws IOException {
        return Spool.open(folder.resolve("spool"), TOTAL, errors::add);
    }
}
