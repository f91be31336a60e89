package dev.graphema.collector;

import dev.graphema.event.Event;
import dev.graphema.query.contract.Samples;
import dev.graphema.query.contract.SourceContract;
import dev.graphema.query.source.EventSource;
import dev.graphema.remote.RemoteSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.io.TempDir;

/** The contract of sources, over HTTP. */
class RemoteSourceContractTest extends SourceContract {
    @TempDir
    private Path folder;

    private final List<Collector> collectors = new ArrayList<>();

    @Override
    public EventSource source(List<Event> events) throws IOException {
        Collector collector = Collectors.start(Files.createTempDirectory(folder, "store"));
        collectors.add(collector);
        StringBuilder lines = new StringBuilder();
        events.forEach(event -> lines.append(Samples.text(event)));
        Collectors.post(collector, "/lines", lines.toString());
        return RemoteSource.at(Collectors.address(collector), null);
    }

    @AfterEach
    void close() throws IOException {
        for (Collector each : collectors) {
            each.close();
        }
    }
}
