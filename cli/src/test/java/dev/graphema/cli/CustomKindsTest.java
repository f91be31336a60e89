package dev.graphema.cli;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.jar.JarEntry;
import java.util.jar.JarOutputStream;
import java.util.stream.Stream;
import javax.tools.ToolProvider;
import org.junit.jupiter.api.Test;

/** Settings that use custom kinds, from a library that is only given with an option: that of examples/own-kinds. */
class CustomKindsTest extends CommandFixture {
    private static final Path EXAMPLE = Path.of("..", "examples", "own-kinds");

    @Test
    void theLibraryIsUsedByCheckExplainRedactAndTheSchema() throws IOException {
        Path settings = Files.copy(EXAMPLE.resolve("graphema.yaml"), folder.resolve("graphema.yaml"));
        assertEquals(2, run("check", settings.toString()));
        assertTrue(error.contains("\"ticket\" is not a valid detector"), error);
        assertTrue(error.contains("board"), error);

        String jar = jar().toString();
        assertEquals(0, run("check", settings.toString(), "--with", jar), error);
        assertEquals(0, run("check", "--schema", "--with", jar));
        assertTrue(output.contains("the characters of a row"), output);
        assertTrue(output.contains("\"ticket\""), output);
        assertEquals(0, run("explain", "skerry.Gate", "info", "--settings", settings.toString(), "--with", jar), error);
        assertTrue(output.contains("gate"), output);
        assertEquals(0, run("redact", "ticket T-0047113-6", "--settings", settings.toString(), "--with", jar), error);
        assertTrue(output.contains("[redacted ticket]"), output);
        Files.writeString(settings, "sinks: {gate: {type: board, width: 300}}\n");
        assertEquals(2, run("check", settings.toString(), "--with", jar));
        assertTrue(error.contains("1:36: \"300\" is not a valid width"), error);
    }

    @Test
    void aMissingLibraryIsReported() {
        misused(
                "graphema: there is no library none.jar; check the path after --with\n",
                "check",
                "graphema.yaml",
                "--with",
                "none.jar");
    }

    @Test
    void aFolderStandsForItsLibraries() throws IOException {
        Path settings = folder.resolve("graphema.yaml");
        Files.writeString(settings, "sinks: {gate: {type: board}}\n");
        jar();
        assertEquals(0, run("check", settings.toString(), "--with", folder.toString()), error);
        Path empty = Files.createDirectories(folder.resolve("empty"));
        misused(
                "graphema: the folder " + empty + " has no libraries; check the path after --with\n",
                "check",
                settings.toString(),
                "--with",
                empty.toString());
    }

    private Path jar() throws IOException {
        Path classes = Files.createDirectories(folder.resolve("classes"));
        List<String> arguments =
                new ArrayList<>(List.of("-d", classes.toString(), "-cp", System.getProperty("java.class.path")));
        arguments.addAll(files(EXAMPLE.resolve("src/main/java")).stream()
                .map(Path::toString)
                .toList());
        assertEquals(0, ToolProvider.getSystemJavaCompiler().run(null, null, null, arguments.toArray(new String[0])));
        Path jar = folder.resolve("own-kinds.jar");
        try (OutputStream file = Files.newOutputStream(jar);
                JarOutputStream entries = new JarOutputStream(file)) {
            for (Path root : List.of(classes, EXAMPLE.resolve("src/main/resources"))) {
                for (Path each : files(root)) {
                    entries.putNextEntry(new JarEntry(root.relativize(each).toString()));
                    Files.copy(each, entries);
                }
            }
        }
        return jar;
    }

    private static List<Path> files(Path root) throws IOException {
        try (Stream<Path> files = Files.walk(root)) {
            return files.filter(Files::isRegularFile).toList();
        }
    }
}
