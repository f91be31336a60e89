package dev.graphema.collector;

import static org.junit.jupiter.api.Assertions.assertEquals;

import dev.graphema.event.Event;
import dev.graphema.query.Question;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.contract.Samples;
import dev.graphema.query.contract.SourceContract;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.query.source.SeveralSources;
import dev.graphema.remote.RemoteSource;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The contract of sources, over two collectors, of which each has a half of the events. */
class SeveralCollectorsContractTest extends SourceContract {
    @TempDir
    private Path folder;

    private final List<Collector> collectors = new ArrayList<>();

    @Override
    public EventSource source(List<Event> events) throws IOException {
        int half = events.size() / 2;
        return new SeveralSources(
                List.of(collector(events.subList(0, half)), collector(events.subList(half, events.size()))));
    }

    private EventSource collector(List<Event> events) throws IOException {
        Collector collector = Collectors.start(Files.createTempDirectory(folder, "store"));
        collectors.add(collector);
        StringBuilder lines = new StringBuilder();
        events.forEach(event -> lines.append(Samples.text(event)));
        if (lines.length() > 0) {
            Collectors.post(collector, "/lines", lines.toString());
        }
        return RemoteSource.at(Collectors.address(collector), null);
    }

    @Test
    void oneThatDoesNotAnswerIsReported() throws IOException {
        List<Event> events =
                List.of(Samples.event(1, "a").finish(), Samples.event(2, "b").finish());
        EventSource one = collector(events);
        EventSource other = RemoteSource.at(URI.create("http://127.0.0.1:1"), null);
        CountTable counts =
                QueryExecutor.answer(Question.all().counts("message"), new SeveralSources(List.of(one, other)));
        assertEquals(2, counts.all().count());
        assertEquals(
                List.of("http://127.0.0.1:1/"),
                counts.coverage().failures().stream()
                        .map(place -> place.source())
                        .toList());
    }

    @AfterEach
    void close() throws IOException {
        for (Collector each : collectors) {
            each.close();
        }
    }
}
