package dev.graphema.sink;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.format.Format;
import java.io.IOException;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class FileSinkTest {
    private static final Format MESSAGE =
            (event, to) -> to.text(event.message()).ascii('\n');

    @TempDir
    private Path folder;

    @Test
    void foldersAreMadeAndEventsAppended() throws IOException {
        Path file = folder.resolve("a/b/deck.log");
        write(file, "one", "two");
        write(file, "three");

        assertEquals(List.of("one", "two", "three"), Files.readAllLines(file));
    }

    @Test
    void aLastLineWithoutAnEndCannotSwallowTheNext() throws IOException {
        Path file = Files.writeString(folder.resolve("deck.log"), "whole\nhal");
        write(file, "next");

        assertEquals(List.of("whole", "hal", "next"), Files.readAllLines(file));
    }

    @Test
    void nothingIsWrittenBeforeTheFlush() throws IOException {
        Path file = folder.resolve("deck.log");
        FileSink sink = open(file);
        sink.write(event("one"));
        assertEquals(0, Files.size(file));
        sink.flush();
        assertEquals(4, Files.size(file));
        sink.close();
    }

    @Test
    void aPathThatCannotBeWrittenIsRefusedAtOnce() throws IOException {
        Path blocked = Files.writeString(folder.resolve("file"), "");

        assertThrows(FileSystemException.class, () -> open(blocked.resolve("deck.log")));
        assertThrows(IOException.class, () -> open(folder));
    }

    @Test
    void aFullDiskLosesNothingUpToTheBound() throws IOException {
        Path full = Path.of("/dev/full");
        assumeTrue(Files.exists(full), "this system has no device that is always full");
        FileSink sink = open(full);
        if (!sink.file().equals(full)) {
            sink.close();
            Files.delete(sink.file());
        }
        assumeTrue(sink.file().equals(full), "another build on this machine is using that device");
        String kilobyte = "x".repeat(1023);
        int taken = 0;
        IOException refusal = null;
        while (refusal == null) {
            try {
                sink.write(event(kilobyte));
                taken++;
            } catch (IOException e) {
                refusal = e;
            }
            assertThrows(IOException.class, sink::flush);
        }
        sink.close();

        assertEquals(4 * 1024, taken);
    }

    private static void write(Path file, String... messages) throws IOException {
        FileSink sink = open(file);
        for (String message : messages) {
            sink.write(event(message));
        }
        sink.flush();
        sink.close();
    }

    private static FileSink open(Path file) throws IOException {
        return FileSink.open(FileOptions.builder(file).build(), MESSAGE, error -> {});
    }

    private static Event event(String message) {
        return new Draft().message(message).finish();
    }
}
