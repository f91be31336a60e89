package dev.graphema.examples;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.settings.SettingsFile;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** The examples with a pom of their own, which scripts/examples runs, and the pages that show parts of them. */
class ProjectsTest {
    @Test
    void pagesShowWhatTheExamplesHave() throws IOException {
        List<Path> sources = files(".java");
        PageBlocks.areIn(Path.of("../docs/extending.md"), sources, 5);
        PageBlocks.areIn(Path.of("../docs/frameworks.md"), sources, 11);
        String settings = Files.readString(Path.of("own-kinds/graphema.yaml"));
        assertTrue(Files.readString(Path.of("../docs/extending.md")).contains("```yaml\n" + settings + "```"));
    }

    @Test
    void eachIsListedAndDescribesHowItIsRun() throws IOException {
        String page = Files.readString(Path.of("../docs/frameworks.md"));
        for (Path folder : folders()) {
            String readme = Files.readString(folder.resolve("README.md"));
            assertTrue(readme.contains("```sh\nmvn -q ") && readme.contains("prints\n\n```text\n"), folder.toString());
            assertTrue(page.contains("(../examples/" + folder.getFileName() + ")"), folder.toString());
        }
    }

    @Test
    void settingsAreValid() throws IOException {
        System.setProperty("DATABASE", "jdbc:postgresql://db.example/logs");
        for (Path file : files(".yaml")) {
            if (!file.startsWith("own-kinds")) { // needs its library; CustomKindsTest reads it
                assertEquals(1, SettingsFile.read(file).sinks().size(), file.toString());
            }
        }
    }

    private static List<Path> files(String end) throws IOException {
        List<Path> found = new ArrayList<>();
        for (Path folder : folders()) {
            try (Stream<Path> files = Files.walk(folder)) {
                files.filter(file -> file.toString().endsWith(end)
                                && !file.toString().contains("target"))
                        .forEach(found::add);
            }
        }
        return found;
    }

    private static List<Path> folders() throws IOException {
        try (Stream<Path> folders = Files.list(Path.of(""))) {
            List<Path> found = folders.filter(folder -> Files.exists(folder.resolve("pom.xml")))
                    .sorted()
                    .toList();
            assertTrue(found.size() >= 10, found.toString());
            return found;
        }
    }
}
