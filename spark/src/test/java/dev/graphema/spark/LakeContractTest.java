package dev.graphema.spark;

import dev.graphema.event.Event;
import dev.graphema.query.contract.SourceContract;
import dev.graphema.query.source.EventSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;

/** The contract of sources, over a lake. */
class LakeContractTest extends SourceContract {
    @TempDir
    private Path folder;

    @Override
    public EventSource source(List<Event> events) throws IOException {
        Lake lake = Lake.create(
                Sessions.local(), Files.createTempDirectory(folder, "lake").toString(), List.of("lock_wait_ms"));
        Sessions.fill(lake, "all", events);
        return LakeSource.of(lake);
    }
}
