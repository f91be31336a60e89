package dev.graphema.segments.store;

import dev.graphema.segments.SegmentLines;
import dev.graphema.segments.log.LogLines;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** The check of a store. */
public final class StoreCheck {
    private StoreCheck() {}

    /**
     * Reads everything that belongs to a store and checks its checksums, also while it is written.
     *
     * @return what is damaged or missing, one sentence each; empty if nothing is
     * @throws IOException if there is no store, or it cannot be read
     */
    public static List<String> damage(Path folder) throws IOException {
        List<String> damage = new ArrayList<>();
        StoreFolder store = new StoreFolder(folder);
        Manifest manifest = ManifestFile.read(folder);
        if (!ManifestFile.hasTwoCopies(folder)) {
            damage.add(folder.resolve(ManifestFile.NAME)
                    + ": one of its two copies is damaged; the next change of the store writes both again");
        }
        for (Manifest.Entry each : manifest.segments()) {
            Path segment = store.segment(each.file());
            if (!Files.exists(segment)) {
                damage.add(segment + " is missing: its " + each.lines() + " lines are lost; restore it from a backup");
                continue;
            }
            try {
                damage.addAll(SegmentLines.damage(segment));
            } catch (IOException e) {
                damage.add(e.getMessage());
            }
        }
        for (long number : store.logsFrom(manifest.firstLog())) {
            Path log = store.log(number);
            try (LogLines lines = new LogLines(log, 0, problem -> damage.add(log + ": " + problem))) {
                lines.skip(Long.MAX_VALUE);
            }
        }
        return damage;
    }
}
