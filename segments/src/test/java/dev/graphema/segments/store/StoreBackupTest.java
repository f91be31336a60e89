package dev.graphema.segments.store;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.query.Question;
import dev.graphema.query.source.QueryExecutor;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class StoreBackupTest {
    private static final StoreOptions OPTIONS = StoreOptions.usual(problem -> {
        throw new AssertionError(problem);
    });

    @TempDir
    private Path folder;

    private static byte[] lines(int from, int count) {
        StringBuilder lines = new StringBuilder();
        for (int i = from; i < from + count; i++) {
            lines.append("{\"time\":\"2026-05-15T05:00:00.000000000Z\",\"level\":\"info\",\"message\":\"m")
                    .append(i)
                    .append("\"}\n");
        }
        return lines.toString().getBytes(StandardCharsets.UTF_8);
    }

    private static Set<String> messages(Path store) throws IOException {
        List<String> messages = new ArrayList<>();
        QueryExecutor.read(
                Question.all(), StoreSource.at(store), progress -> true, event -> messages.add(event.message()));
        Set<String> different = new HashSet<>(messages);
        assertEquals(different.size(), messages.size());
        return different;
    }

    @Test
    void whatWasStoredIsInTheCopyWhateverIsWrittenMeanwhile() throws Exception {
        Path copy = folder.resolve("copy");
        AtomicInteger stored = new AtomicInteger();
        AtomicBoolean isEnding = new AtomicBoolean();
        try (Store store = Store.open(folder.resolve("store"), OPTIONS)) {
            Thread writer = new Thread(() -> {
                try {
                    for (int i = 0; !isEnding.get(); i++) {
                        store.append(lines(stored.get(), 50));
                        stored.addAndGet(50);
                        if (i % 7 == 0) {
                            store.tidy();
                        }
                    }
                } catch (IOException e) {
                    throw new AssertionError(e);
                }
            });
            writer.start();
            for (int i = 0; i < 6; i++) {
                int before = stored.get();
                StoreBackup.copy(folder.resolve("store"), copy);
                assertTrue(messages(copy).size() >= before, "copy " + i);
            }
            isEnding.set(true);
            writer.join();
        }
        StoreBackup.copy(folder.resolve("store"), copy);
        assertEquals(messages(folder.resolve("store")), messages(copy));
        assertTrue(StoreBackup.copy(folder.resolve("store"), copy).files() < 3); // no segment again
        try (Store restored = Store.open(copy, OPTIONS)) {
            restored.append(lines(1_000_000, 1));
        }
        assertEquals(stored.get() + 1, messages(copy).size());
    }

    @Test
    void rulesAndInnerStoresAreCopied() throws IOException {
        Path store = folder.resolve("store");
        try (Store outer = Store.open(store, OPTIONS);
                Store inner = Store.open(store.resolve("audit"), OPTIONS)) {
            outer.append(lines(0, 3));
            inner.append(lines(0, 2));
            Files.writeString(store.resolve(StoreRules.FILE), "retention:\n  - {keep: 3000d}\n");
            StoreBackup.copy(store, folder.resolve("copy"));
        }
        assertEquals(3, messages(folder.resolve("copy")).size());
        assertEquals(2, messages(folder.resolve("copy").resolve("audit")).size());
        assertEquals(1, StoreRules.of(folder.resolve("copy")).retention().size());
        assertFalse(Files.exists(folder.resolve("copy").resolve("0000000001.glog.unfinished")));
    }
}
