package dev.graphema.segments.store;

import static org.junit.jupiter.api.Assertions.assertDoesNotThrow;

import dev.graphema.event.Event;
import dev.graphema.lines.LineFiles;
import dev.graphema.query.contract.Samples;
import dev.graphema.query.contract.SourceContract;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.SeveralSources;
import dev.graphema.segments.SegmentFiles;
import dev.graphema.segments.SegmentWriter;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.io.TempDir;

/** The contract of sources, over stores in which all events, half of them or none are still in the log, or just leave it. */
class StoreContractTest {
    private static final StoreOptions OPTIONS = StoreOptions.usual(problem -> {
        throw new AssertionError(problem);
    });

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

    @Nested
    class BeingSealed extends SourceContract {
        @TempDir
        private Path folder;

        private Store store;
        private Thread sealing;

        @Override
        public EventSource source(List<Event> events) throws IOException {
            close();
            Path opened = Files.createTempDirectory(folder, "store");
            store = Store.open(opened, OPTIONS);
            int half = events.size() / 2;
            store.append(lines(events.subList(0, half)));
            store.tidy();
            store.append(lines(events.subList(half, events.size())));
            sealing = new Thread(() -> {
                try {
                    store.tidy();
                } catch (IOException problem) {
                    throw new UncheckedIOException(problem);
                }
            });
            sealing.start();
            return StoreSource.at(opened);
        }

        @AfterEach
        void close() throws IOException {
            if (store != null) {
                assertDoesNotThrow(() -> sealing.join());
                store.close();
            }
        }
    }

    /** A third of the events is in a log, a third in a segment, and a third in a store. */
    @Nested
    class AmongOthers extends SourceContract {
        @TempDir
        private Path folder;

        @Override
        public EventSource source(List<Event> events) throws IOException {
            int third = events.size() / 3;
            Path parent = Files.createTempDirectory(folder, "mixture");
            Path log = Files.write(parent.resolve("log.jsonl"), lines(events.subList(0, third)));
            Path segment = parent.resolve("log.gseg");
            try (SegmentWriter writer = new SegmentWriter(segment)) {
                for (Event event : events.subList(third, 2 * third)) {
                    byte[] line = lines(List.of(event));
                    writer.add(line, 0, line.length - 1);
                }
                writer.finish();
            }
            List<Event> last = events.subList(2 * third, events.size());
            return new SeveralSources(List.of(
                    LineFiles.at(List.of(log)),
                    SegmentFiles.at(List.of(segment)),
                    stored(parent, last, last.size() / 2)));
        }
    }

    private static EventSource stored(Path parent, List<Event> events, int inLog) throws IOException {
        Path folder = Files.createTempDirectory(parent, "store");
        try (Store store = Store.open(folder, OPTIONS)) {
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
