package dev.graphema.lines;

import static org.junit.jupiter.api.Assertions.assertEquals;

import dev.graphema.condition.Condition;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.contract.Samples;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class FileFollowingTest {
    @TempDir
    Path folder;

    @Test
    void whatIsWrittenIsFollowedAcrossRotationAndInNewFiles() throws IOException {
        Path file = folder.resolve("deck.jsonl");
        append(file, line(1, "old"));
        try (FileFollowing follower =
                new FileFollowing(List.of(folder), LineShape.USUAL, Condition.parse("level = info"))) {
            assertEquals(List.of(), polled(follower));
            append(file, line(2, "new") + line(3, "second").substring(0, 30));
            assertEquals(List.of("new"), polled(follower), "half a line waits for its rest");
            append(file, line(3, "second").substring(30) + line(4, "before rotation"));
            Files.move(file, folder.resolve("deck.jsonl.1"));
            append(file, line(5, "after rotation"));
            assertEquals(List.of("second", "before rotation", "after rotation"), polled(follower));
            append(folder.resolve("gate.jsonl"), line(6, "in a new file"));
            append(file, line(7, "and here") + "nonsense\n");
            assertEquals(List.of("in a new file", "and here"), polled(follower));
            Files.writeString(file, line(8, "cut and begun anew"));
            assertEquals(List.of("cut and begun anew"), polled(follower));
            Files.delete(file);
            assertEquals(List.of(), polled(follower));
            assertEquals(1, follower.coverage().damagedCount());
        }
    }

    private static String line(int number, String message) {
        return Samples.text(Samples.event(number, message));
    }

    private static void append(Path file, String text) throws IOException {
        Files.writeString(file, text, StandardOpenOption.CREATE, StandardOpenOption.APPEND);
    }

    private static List<String> polled(FileFollowing follower) throws IOException {
        List<String> messages = new ArrayList<>();
        follower.poll(event -> messages.add(event.message()));
        return messages;
    }
}
