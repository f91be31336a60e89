package dev.graphema.collector;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Event;
import dev.graphema.query.Question;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.contract.Samples;
import dev.graphema.query.contract.SourceContract;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.remote.RemoteSource;
import java.io.IOException;
import java.net.ServerSocket;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The contract of sources, over a collector that asks another one, which asks it in turn; each has a half of the events. */
class OtherCollectorsTest extends SourceContract {
    private static final int MOST_ATTEMPTS = 5;

    @TempDir
    private Path folder;

    private final List<Collector> collectors = new ArrayList<>();

    @Override
    public EventSource source(List<Event> events) throws IOException {
        int half = events.size() / 2;
        for (int attempt = 0; true; attempt++) {
            URI first = freeAddress();
            URI second = freeAddress();
            try {
                start(first, List.of(second), events.subList(0, half));
                start(second, List.of(first), events.subList(half, events.size()));
                return RemoteSource.at(first, null);
            } catch (IOException e) {
                close(); // something else has taken a port meanwhile
                if (attempt == MOST_ATTEMPTS) {
                    throw e;
                }
            }
        }
    }

    private static URI freeAddress() throws IOException {
        try (ServerSocket free = new ServerSocket(0)) {
            return URI.create("http://127.0.0.1:" + free.getLocalPort());
        }
    }

    private void start(URI address, List<URI> others, List<Event> events) throws IOException {
        CollectorOptions options = CollectorOptions.usual(Files.createTempDirectory(folder, "store"), problem -> {
                    throw new AssertionError(problem);
                })
                .port(address.getPort())
                .stamping(false);
        for (URI each : others) {
            options = options.other(new OtherCollector(each, null, null));
        }
        Collector collector = Collector.start(options);
        collectors.add(collector);
        StringBuilder lines = new StringBuilder();
        events.forEach(event -> lines.append(Samples.text(event)));
        if (lines.length() > 0) {
            Collectors.post(collector, "/lines", lines.toString());
        }
    }

    private static long count(EventSource source) throws IOException {
        return QueryExecutor.answer(Question.all().newest(0), source).matching();
    }

    @Test
    void eachAnswersForAllAndForItself() throws IOException {
        RemoteSource first = (RemoteSource) source(List.of(
                Samples.event(1, "a").finish(),
                Samples.event(2, "b").finish(),
                Samples.event(3, "c").finish()));
        assertEquals(3, count(first));
        assertEquals(3, count(RemoteSource.at(collectors.get(1).address(), null)));
        assertEquals(1, count(first.withoutOthers()));
    }

    @Test
    void oneThatDoesNotAnswerIsReported() throws IOException {
        URI address = freeAddress();
        start(
                address,
                List.of(URI.create("http://127.0.0.1:1")),
                List.of(Samples.event(1, "a").finish()));
        CountTable counts = QueryExecutor.answer(Question.all().counts("message"), RemoteSource.at(address, null));
        assertEquals(1, counts.all().count());
        assertEquals(1, counts.coverage().failures().size());
        String failure = counts.coverage().failures().get(0).toString();
        assertTrue(failure.contains("http://127.0.0.1:1/") && failure.contains("nobody answers there"), failure);
    }

    @Test
    void twoThatAskEachOtherDoNotBlockEachOther() throws IOException {
        EventSource first = source(
                List.of(Samples.event(1, "a").finish(), Samples.event(2, "b").finish()));
        EventSource second = RemoteSource.at(collectors.get(1).address(), null);
        List<CompletableFuture<Long>> answers = new ArrayList<>();
        for (int i = 0; i < 8; i++) {
            EventSource asked = i % 2 == 0 ? first : second;
            answers.add(CompletableFuture.supplyAsync(() -> {
                try {
                    return count(asked);
                } catch (IOException e) {
                    throw new IllegalStateException(e);
                }
            }));
        }
        answers.forEach(each -> assertEquals(2, each.join()));
    }

    @AfterEach
    void close() throws IOException {
        for (Collector each : collectors) {
            each.close();
        }
        collectors.clear();
    }
}
