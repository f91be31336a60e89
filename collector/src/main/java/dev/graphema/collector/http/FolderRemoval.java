package dev.graphema.collector.http;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/** Removes the folder that the server needs while it runs. */
final class FolderRemoval {
    private FolderRemoval() {}

    static void remove(Path folder) throws IOException {
        List<Path> files;
        try (Stream<Path> below = Files.walk(folder)) {
            files = below.sorted(Comparator.reverseOrder()).toList();
        }
        for (Path file : files) {
            Files.deleteIfExists(file);
        }
    }
}
