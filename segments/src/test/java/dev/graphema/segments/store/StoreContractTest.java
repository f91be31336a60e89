package dev.graphema.segments.store;

import dev.graphema.event.Event;
import dev.graphema.query.contract.Samples;
import dev.graphema.query.contract.SourceContract;
import dev.graphema.query.source.EventSource;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.io.TempDir;

/** The contract of sources, over stores in which all events, half of them or none are still in the log. */
class StoreContractTest {
    @Nested
    class InTheLog extends SourceContract {
        @TempDir
        private Path folder;

        @Override
        public EventSource source(List<Event> events) throws IOException {
            return stored(folder, events, events.size());
        }
    }

    @Nested
    class HalfSealed extends SourceContract {
        @TempDir
        private Path folder;

        @Override
        public EventSource source(List<Event> events) throws IOException {
            return stored(folder, events, events.size() / 2);
        }
    }

    @Nested
    class Sealed extends SourceContract {
        @TempDir
        private Path folder;

        @Override
        public EventSource source(List<Event> events) throws IOException {
            return stored(folder, events, 0);
        }
    }

    private static EventSource stored(Path parent, List<Event> events, int inLog) throws IOException {
        Path folder = Files.createTempDirectory(parent, "store");
        try (Store store = Store.open(folder, StoreOptions.usual(problem -> {
            throw new AssertionError(problem);
        }))) {
            store.append(lines(events.subList(0, events.size() - inLog)));
            if (inLog < events.size()) {
                store.tidy();
            }
            store.append(lines(events.subList(events.size() - inLog, events.size())));
        }
        return StoreSource.at(folder);
    }

    private static byte[] lines(List<Event> events) throws IOException {
        ByteArrayOutputStream lines = new ByteArrayOutputStream();
        for (Event event : events) {
            lines.write((Samples.text(event).strip() + "\n").getBytes(StandardCharsets.UTF_8));
        }
        return lines.toByteArray();
    }
}
