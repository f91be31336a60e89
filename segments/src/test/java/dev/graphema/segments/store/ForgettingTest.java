package dev.graphema.segments.store;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ForgettingTest {
    private static final String PERSON = "Mæra Lind/\"ml\"";

    @TempDir
    private Path folder;

    @Test
    void noByteOfTheTextIsLeft() throws IOException {
        try (Store store = open()) {
            store.append(lines(
                    event("booked", "Mæra Lind/\\\"ml\\\""),
                    event("booked by M\\u00e6ra L\\u0069nd\\/\\u0022ml\\u0022", "1"),
                    event("other", "mæra lind"),
                    "Mæra Lind/\"ml\" in plain text\n",
                    event("another", "Lind")));
            store.tidy();
            store.append(lines(event("still in the log", "Mæra Lind/\\\"ml\\\"")));
            assertEquals(4, store.containing(PERSON));
            assertEquals(4, store.forget(PERSON));
            assertEquals(List.of("other", "another"), StoreTest.messages(store.source()));
            assertEquals(0, store.forget(PERSON));
        }
        try (Stream<Path> files = Files.list(folder)) {
            for (Path file : files.toList()) {
                String text = new String(Files.readAllBytes(file), StandardCharsets.UTF_8);
                assertFalse(text.contains("Mæra Lind") || text.contains("ml\\"), file.toString());
            }
        }
        String report = Files.readString(folder.resolve("deleted.jsonl"));
        assertTrue(report.contains("\"reason\":\"asked to forget a text\",\"lines\":"), report);
    }

    @Test
    void aFileThatStillHasTheTextIsReported() throws IOException {
        try (Store store = open()) {
            store.append(lines(event("booked", "Mara Lind")));
            Files.writeString(folder.resolve("notes.txt"), "x".repeat((1 << 20) - 4) + "Mara Lind");
            IOException left = assertThrows(IOException.class, () -> store.forget("Mara Lind"));
            assertTrue(left.getMessage().contains("the text is still in"), left.getMessage());
            assertTrue(left.getMessage().contains("notes.txt"), left.getMessage());
            assertEquals(List.of(), StoreTest.messages(store.source()));
        }
    }

    @Test
    void textsThatAreInTooManyEventsAreRefused() throws IOException {
        try (Store store = open()) {
            store.append(lines(event("booked", "42")));
            assertThrows(IllegalArgumentException.class, () -> store.forget("42"));
            assertThrows(IllegalArgumentException.class, () -> store.forget("two\nlines"));
            assertEquals(List.of("booked"), StoreTest.messages(store.source()));
        }
    }

    private Store open() throws IOException {
        return Store.open(folder, StoreOptions.usual(problem -> {
            throw new AssertionError(problem);
        }));
    }

    private static String event(String message, String passenger) {
        return "{\"time\":\"2026-05-15T06:00:00.000000000Z\",\"level\":\"info\",\"message\":\"%s\",\"fields\":{\"passenger\":\"%s\"}}\n"
                .formatted(message, passenger);
    }

    private static byte[] lines(String... lines) {
        return String.join("", lines).getBytes(StandardCharsets.UTF_8);
    }
}
