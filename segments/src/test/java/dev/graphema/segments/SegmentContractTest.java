package dev.graphema.segments;

import dev.graphema.event.Event;
import dev.graphema.query.contract.Samples;
import dev.graphema.query.contract.SourceContract;
import dev.graphema.query.source.EventSource;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;

class SegmentContractTest extends SourceContract {
    @TempDir
    private Path folder;

    @Override
    public EventSource source(List<Event> events) throws IOException {
        Path file = folder.resolve("log.gseg");
        try (SegmentWriter writer = new SegmentWriter(file)) {
            for (Event event : events) {
                byte[] line = Samples.text(event).strip().getBytes(StandardCharsets.UTF_8);
                writer.add(line, 0, line.length);
            }
            writer.finish();
        }
        return SegmentFiles.at(List.of(file));
    }
}
