package dev.graphema.sink;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.zip.GZIPOutputStream;

/**
 * Compresses files that were put aside, and deletes those that are too many, too large together, or too old. Only ever
 * touches the sink's own files. Runs on a thread of its own, one task at a time.
 */
final class OldFiles {
    private final FileNames names;
    private final FileOptions options;

    OldFiles(FileNames names, FileOptions options) {
        this.names = names;
        this.options = options;
    }

    /** Does all that is to be done now, also what an earlier process left undone. */
    void tidy(Instant now) throws IOException {
        if (options.compress()) {
            for (Path file : names.putAside()) {
                if (!FileNames.isCompressed(file)) {
                    compress(file);
                }
            }
        }
        deleteSurplus(now);
    }

    /** The new file gets its name only when it is whole, and only then does the old one go. */
    private static void compress(Path file) throws IOException {
        Path unfinished = Path.of(file + FileNames.COMPRESSED + FileNames.UNFINISHED);
        try (InputStream from = Files.newInputStream(file);
                OutputStream to = new GZIPOutputStream(Files.newOutputStream(unfinished), 64 * 1024)) {
            from.transferTo(to);
        }
        Files.setLastModifiedTime(unfinished, Files.getLastModifiedTime(file));
        Files.move(unfinished, Path.of(file + FileNames.COMPRESSED), StandardCopyOption.ATOMIC_MOVE);
        Files.delete(file);
    }

    private void deleteSurplus(Instant now) throws IOException {
        List<Path> newestFirst = new ArrayList<>(names.putAside());
        Collections.reverse(newestFirst);
        long total = 0;
        int count = 0;
        for (Path file : newestFirst) {
            total += Files.size(file);
            count++;
            boolean tooOld = Files.getLastModifiedTime(file).toInstant().isBefore(now.minus(options.keepAge()));
            if (total > options.keepTotal() || count > options.keepCount() || tooOld) {
                Files.delete(file);
            }
        }
    }
}
