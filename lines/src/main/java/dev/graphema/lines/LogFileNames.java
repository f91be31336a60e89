package dev.graphema.lines;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/** Finds the files of paths. */
final class LogFileNames {
    private LogFileNames() {}

    /**
     * Returns the files, each once, those of a folder in the order of names. A folder includes all files below it with
     * the name of a log: {@code deck.log}, {@code deck.jsonl.gz}, {@code deck.log.1}, {@code
     * deck-2026-05-15.ndjson.zst}.
     *
     * @throws NoSuchFileException if a path does not exist
     */
    static List<Path> at(List<Path> paths) throws IOException {
        Set<Path> files = new LinkedHashSet<>();
        for (Path path : paths) {
            if (Files.isDirectory(path)) {
                files.addAll(inFolder(path));
            } else if (Files.exists(path)) {
                files.add(path);
            } else {
                throw new NoSuchFileException(path.toString());
            }
        }
        return new ArrayList<>(files);
    }

    private static List<Path> inFolder(Path folder) throws IOException {
        try (Stream<Path> below = Files.walk(folder)) {
            // The usual names of log files, also of archived and compressed ones.
            Pattern name = Pattern.compile(".+\\.(jsonl|ndjson|log)([.-][0-9][0-9T_.:-]*)?(\\.(gz|zst))?");
            return below.filter(
                            path -> name.matcher(path.getFileName().toString()).matches())
                    .filter(Files::isRegularFile)
                    .sorted()
                    .toList();
        }
    }
}
