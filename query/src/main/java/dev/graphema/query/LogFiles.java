package dev.graphema.query;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;

/** Finds the files that are meant by paths of files and folders. */
final class LogFiles {
    private static final List<String> ENDINGS = List.of(".jsonl", ".jsonl.gz");

    private LogFiles() {}

    /**
     * The files, each once, those of a folder in the order of their names: a file stands for itself, a folder for all files
     * of JSON lines in and below it, compressed ones included.
     *
     * @throws NoSuchFileException when a path does not exist
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
            return below.filter(LogFiles::isLog)
                    .filter(Files::isRegularFile)
                    .sorted()
                    .toList();
        }
    }

    private static boolean isLog(Path path) {
        String name = path.getFileName().toString();
        return ENDINGS.stream().anyMatch(name::endsWith);
    }
}
