package dev.graphema.lines;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.Ask;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.contract.Samples;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Every event has its file, line and position, if a question names them. */
class LinePlaceTest {
    private static final int MANY = 20_000;

    @TempDir
    Path folder;

    @Test
    void everyEventHasItsFileAndItsLine() throws IOException {
        StringBuilder own = new StringBuilder();
        for (int i = 0; i < MANY; i++) {
            own.append(Samples.text(Samples.event(MANY - i, "own " + i)));
        }
        Path big = Files.writeString(folder.resolve("a.jsonl"), own);
        Path text = Files.writeString(
                folder.resolve("b.log"),
                "\nts=2026-11-23T05:01:56Z msg=one\n2026-11-23 05:01:57 two\n  goes on\n{\"ts\":1795442462,\"msg\":\"three\"}\n");
        Asked logs = Asked.at(folder);

        for (int line : new int[] {1, 2, 9_999, MANY}) {
            FoundEvents found = logs.where("line.number = " + line + " and line.file = \"" + big + "\"")
                    .newest(5);
            assertEquals(1, found.matching(), "line " + line);
            Event event = found.events().get(0);
            assertEquals("own " + (line - 1), event.message());
            assertEquals((long) line, event.fields().get("line.number"));
        }
        List<List<Object>> rows = new ArrayList<>();
        logs.where("line.file ends b.log and line.offset >= 0 and line.number exists")
                .read(event -> rows.add(List.of(
                        event.message(),
                        event.fields().get("line.number"),
                        event.fields().get("line.offset"))));
        String bytes = Files.readString(text);
        assertEquals(
                List.of(
                        List.of("one", 2L, 1L),
                        List.of("two\n  goes on", 3L, (long) bytes.indexOf("2026-11-23 05:01:57")),
                        List.of("three", 5L, (long) bytes.indexOf('{'))),
                rows);
        assertTrue(logs.newest(1).events().get(0).fields().isEmpty(), "who does not ask for it does not see it");
        assertEquals(
                MANY,
                logs.where("line.file ends a.jsonl").counts("line.file").all().count());
    }

    @Test
    void theOrderCanBeThatOfTheFiles() throws IOException {
        Files.writeString(
                folder.resolve("a.jsonl"), Samples.text(Samples.event(9, "a1")) + Samples.text(Samples.event(3, "a2")));
        Files.writeString(
                folder.resolve("b.jsonl"), Samples.text(Samples.event(5, "b1")) + Samples.text(Samples.event(1, "b2")));

        assertEquals(List.of("a1", "a2", "b1"), messages(Ask.Order.FIRST, 3));
        assertEquals(List.of("a2", "b1", "b2"), messages(Ask.Order.LAST, 3));
    }

    @Test
    void aFileThatIsFollowedHasTheRightLines() throws IOException {
        Path file = Files.writeString(
                folder.resolve("a.jsonl"), Samples.text(Samples.event(1, "old")).repeat(3));
        try (FileFollowing following = new FileFollowing(
                List.of(file), LineShape.USUAL, Condition.parse("line.number > 0 and line.offset > 0"))) {
            for (int i = 4; i < 7; i++) {
                Files.writeString(file, Samples.text(Samples.event(i, "new")), StandardOpenOption.APPEND);
                List<Event> events = new ArrayList<>();
                following.poll(events::add);
                assertEquals((long) i, events.get(0).fields().get("line.number"));
            }
        }
    }

    private List<String> messages(Ask.Order order, int limit) throws IOException {
        return Asked.at(folder).answer(new Ask.Events(order, limit)).events().stream()
                .map(Event::message)
                .toList();
    }
}
