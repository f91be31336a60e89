package dev.graphema.segments;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.lines.LineFiles;
import dev.graphema.query.Question;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.query.source.SeveralSources;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The file sink archives its files as segments. */
class SegmentArchiveTest {
    @TempDir
    private Path folder;

    @Test
    void rotatedFilesBecomeSegmentsWithoutLosingAnEvent() throws IOException {
        Path settings =
                Files.writeString(folder.resolve("graphema.yaml"), """
                sinks:
                  log:
                    type: file
                    path: '%s'
                    rotate: {at: 64KB}
                    compress: segment
                """.formatted(folder.resolve("logs/deck.jsonl")));
        try (Graphema graphema = Graphema.start(settings)) {
            Logger log = graphema.logger("skerry.deck");
            for (int i = 0; i < 3000; i++) {
                int number = i;
                log.info("lane closed", fields -> fields.put("number", number));
            }
        }
        Path logs = folder.resolve("logs");
        List<String> names;
        try (Stream<Path> files = Files.list(logs)) {
            names = files.map(file -> file.getFileName().toString()).sorted().toList();
        }
        assertTrue(names.size() > 3, names.toString());
        assertTrue(
                names.stream().allMatch(name -> name.equals("deck.jsonl") || name.matches("deck\\..*\\.jsonl\\.gseg")),
                names.toString());
        SeveralSources all = new SeveralSources(List.of(LineFiles.at(List.of(logs)), SegmentFiles.at(List.of(logs))));
        assertEquals(
                3000,
                QueryExecutor.answer(Question.where("").counts("number"), all)
                        .rows()
                        .size());
    }
}
