package dev.graphema.spark;

import dev.graphema.lines.SameAnswers;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/** Random questions have the same answers as over the events in memory. */
class SameAsMemoryTest {
    /** {@code -Dtables=20} compares more lakes, {@code -Dseed} other ones. */
    private static final int LAKES = Integer.getInteger("tables", 1);

    private static final long SEED = Long.getLong("seed", 0);

    @TempDir
    private Path folder;

    @Test
    @Timeout(7200)
    void answersAreTheSame() throws IOException {
        new SameAnswers(folder).compare("lakes", LAKES, SEED, events -> {
            Path place = Files.createTempDirectory(folder, "lake");
            Lake lake = Lake.create(Sessions.local(), place.toString(), List.of("lane", "status", "text", "code"));
            Sessions.fill(lake, "all", events);
            return LakeSource.of(lake);
        });
    }

    @Test
    @Timeout(600)
    void answersAboutFieldsAreTheSame() throws IOException {
        new SameAnswers(folder).compareFields(events -> {
            Lake lake = Lake.create(Sessions.local(), folder.resolve("fields").toString(), List.of("wait_ms"));
            Sessions.fill(lake, "all", events);
            return LakeSource.of(lake);
        });
    }
}
