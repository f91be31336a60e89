package dev.graphema.examples;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;

import dev.graphema.collector.CollectorOptions;
import dev.graphema.collector.settings.CollectorFile;
import dev.graphema.settings.SettingsFile;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.MatchResult;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The first pages that a newcomer reads: README.md, and docs/quick-start.md, which scripts/newcomer follows. */
class FirstPagesTest {
    private static final Pattern VERSION = Pattern.compile(
            "graphema-[a-z]+</artifactId>\\s*<version>([^<$]+)<|:graphema-[a-z]+:([0-9.]+)|graphema-([0-9.]+[0-9])");

    @TempDir
    Path folder;

    @Test
    void theFirstProgramOfTheReadmeIsThatOfTheQuickStart() throws IOException {
        assertEquals(
                blocks("../README.md", "java").get(0),
                blocks("../docs/quick-start.md", "java").get(0));
    }

    @Test
    void settingsAreValid() throws IOException {
        for (String page :
                List.of("../README.md", "../docs/quick-start.md", "../docs/collector.md", "../docs/kafka.md")) {
            for (String settings : blocks(page, "yaml")) {
                if (settings.matches("(?s)(listen|collectors|topics):.*")) {
                    assertCollector(settings);
                    continue;
                }
                Path file = Files.writeString(folder.resolve("graphema.yaml"), settings);
                assertFalse(SettingsFile.read(file).sinks().isEmpty(), page);
            }
        }
    }

    private void assertCollector(String settings) throws IOException {
        Files.writeString(folder.resolve("graphema.yaml"), "redaction: {keys: {pin: remove}}\n");
        System.setProperty("TLS_PASSWORD", "of-a-page");
        System.setProperty("DESK_SECRET", "of-a-page");
        System.setProperty("COLLECTOR_TOKEN", "of-a-page");
        Path file = Files.writeString(folder.resolve("collector.yaml"), settings);
        CollectorOptions options = CollectorFile.read(file, problem -> {});
        assertEquals(settings.contains("alerts:"), !options.alerts().isEmpty());
    }

    @Test
    void versionsAreThatOfTheBuild() throws IOException {
        String version = version("../pom.xml");
        assertEquals(version, version("../bom/pom.xml"));
        List<String> pages = new ArrayList<>(List.of("../README.md", "../docs/quick-start.md"));
        try (Stream<Path> folders = Files.list(Path.of(""))) {
            folders.map(folder -> folder.resolve("pom.xml"))
                    .filter(Files::exists)
                    .map(Path::toString)
                    .forEach(pages::add);
        }
        for (String page : pages) {
            List<MatchResult> found =
                    VERSION.matcher(Files.readString(Path.of(page))).results().toList();
            assertFalse(found.isEmpty(), page);
            for (MatchResult each : found) {
                String given =
                        each.group(1) != null ? each.group(1) : each.group(2) != null ? each.group(2) : each.group(3);
                assertEquals(version, given, page + ": " + each.group());
            }
        }
    }

    private static String version(String pom) throws IOException {
        String text = Files.readString(Path.of(pom));
        int from = text.indexOf("<version>") + "<version>".length();
        return text.substring(from, text.indexOf('<', from));
    }

    private static List<String> blocks(String page, String kind) throws IOException {
        return Pattern.compile("```" + kind + "\n(.*?)```", Pattern.DOTALL)
                .matcher(Files.readString(Path.of(page)))
                .results()
                .map(block -> block.group(1))
                .toList();
    }
}
