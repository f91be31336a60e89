package dev.graphema.lines;

import dev.graphema.event.Event;
import dev.graphema.query.contract.Samples;
import dev.graphema.query.contract.SourceContract;
import dev.graphema.query.source.EventSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;

class LineFilesContractTest extends SourceContract {
    @TempDir
    private Path folder;

    @Override
    public EventSource source(List<Event> events) throws IOException {
        Path file = folder.resolve("log.jsonl");
        StringBuilder text = new StringBuilder();
        events.forEach(event -> text.append(Samples.text(event)));
        Files.writeString(file, text);
        return LineFiles.at(List.of(file));
    }
}
