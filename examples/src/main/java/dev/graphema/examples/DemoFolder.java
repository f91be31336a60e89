package dev.graphema.examples;

import dev.graphema.cli.arguments.MisuseException;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;

/** The folder of a demo. */
final class DemoFolder {
    private static final Set<String> OWN = Set.of("settings", "logs", "run", "spool", "postgresql", "collected");

    private DemoFolder() {}

    /**
     * Creates the folder, or clears that of an earlier demo.
     *
     * @throws MisuseException if it contains anything else: nothing is deleted then
     */
    static void prepare(Path folder) throws IOException, MisuseException {
        if (Files.exists(folder) && !Files.isDirectory(folder)) {
            throw new MisuseException("--folder " + folder + " is a file: expected a folder, or a name that is free");
        }
        if (Files.isDirectory(folder)) {
            try (Stream<Path> entries = Files.list(folder)) {
                for (Path entry : entries.toList()) {
                    if (!OWN.contains(entry.getFileName().toString())) {
                        throw new MisuseException("--folder " + folder + " holds " + entry.getFileName()
                                + ", which is not part of a demo: expected an empty folder, or one of an earlier demo");
                    }
                }
            }
            for (String name : OWN) {
                delete(folder.resolve(name));
            }
        }
        Files.createDirectories(folder);
    }

    private static void delete(Path folder) throws IOException {
        if (!Files.exists(folder)) {
            return;
        }
        List<Path> inside;
        try (Stream<Path> below = Files.walk(folder)) {
            inside = below.sorted(Comparator.reverseOrder()).toList();
        }
        for (Path path : inside) {
            Files.delete(path);
        }
    }
}
