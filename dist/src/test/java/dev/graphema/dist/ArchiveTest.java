package dev.graphema.dist;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.File;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The archive of the command, unpacked on a path with blanks. */
class ArchiveTest {
    private static final String EVENT =
            "{\"time\":\"2026-05-15T06:31:02.300Z\",\"level\":\"error\",\"service\":\"booking\",\"message\":\"no lane\"}\n";

    @TempDir
    static Path folder;

    private static Path home;
    private static String name;

    private String output;
    private String error;

    @BeforeAll
    static void unpack() throws Exception {
        Path archive;
        try (Stream<Path> files = Files.list(Path.of("target"))) {
            archive = files.filter(file -> file.toString().endsWith(".tar.gz"))
                    .findFirst()
                    .orElseThrow();
        }
        Path place = Files.createDirectories(folder.resolve("some where"));
        Process tar = new ProcessBuilder("tar", "xzf", archive.toAbsolutePath().toString(), "-C", place.toString())
                .inheritIO()
                .start();
        assertEquals(0, tar.waitFor());
        name = archive.getFileName().toString().replace(".tar.gz", "");
        home = place.resolve(name);
        Files.writeString(folder.resolve("booking.jsonl"), EVENT);
    }

    private int run(Map<String, String> environment, List<String> command) throws IOException, InterruptedException {
        ProcessBuilder builder = new ProcessBuilder(command).directory(folder.toFile());
        builder.environment().put("JAVA_HOME", System.getProperty("java.home"));
        builder.environment().put("XDG_CACHE_HOME", folder.resolve("cache").toString());
        builder.environment().put("XDG_STATE_HOME", folder.resolve("state").toString());
        builder.environment().putAll(environment);
        File errors = folder.resolve("errors").toFile();
        Process process = builder.redirectError(errors).start();
        output = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        int code = process.waitFor();
        error = Files.readString(errors.toPath());
        return code;
    }

    private int graphema(String... arguments) throws IOException, InterruptedException {
        List<String> command =
                new ArrayList<>(List.of(home.resolve("bin/graphema").toString()));
        command.addAll(List.of(arguments));
        return run(Map.of(), command);
    }

    @Test
    void theVersionIsThatOfTheArchive() throws Exception {
        assertEquals(0, graphema("--version"));
        assertEquals(name.replace('-', ' ') + "\n", output);
        assertEquals("", error);
    }

    @Test
    void itRunsFromThePathAndASecondTime() throws Exception {
        Path links = Files.createDirectories(folder.resolve("bin"));
        Files.deleteIfExists(links.resolve("graphema"));
        Files.createSymbolicLink(links.resolve("graphema"), home.resolve("bin/graphema"));
        Map<String, String> path = Map.of("PATH", links + File.pathSeparator + System.getenv("PATH"));
        for (int i = 0; i < 2; i++) {
            assertEquals(
                    0,
                    run(path, List.of("sh", "-c", "graphema tally service 'level >= error' --in booking.jsonl")),
                    error);
            assertTrue(output.contains("booking") && output.contains("100.0%"), output);
            assertTrue(error.contains("to see the first: graphema find"), "the next command is short: " + error);
        }
    }

    @Test
    void itRunsWithoutAFolderToWriteTo() throws Exception {
        List<String> command =
                List.of(home.resolve("bin/graphema").toString(), "find", "level >= error", "--in", "booking.jsonl");
        assertEquals(0, run(Map.of("XDG_CACHE_HOME", "/proc/none", "XDG_STATE_HOME", "/proc/none"), command), error);
        assertTrue(output.contains("no lane"), output);
    }

    @Test
    void anotherUserRunsItWithoutWritingToIt() throws Exception {
        boolean canChangeUser = Files.isExecutable(Path.of("/usr/bin/setpriv"))
                && System.getProperty("user.name").equals("root");
        assumeTrue(canChangeUser, "needs root and setpriv, to run the command as another user");
        open(folder);
        List<String> command = List.of(
                "/usr/bin/setpriv",
                "--reuid=65534",
                "--clear-groups",
                "--",
                home.resolve("bin/graphema").toString(),
                "find",
                "level >= error",
                "--in",
                "booking.jsonl");
        assertEquals(0, run(Map.of("XDG_CACHE_HOME", "/nonexistent", "HOME", "/nonexistent"), command), error);
        assertTrue(output.contains("no lane"), output);
    }

    /** Lets other users read the folder, as those of a package manager can be read. */
    private static void open(Path folder) throws IOException {
        folder.toFile().setExecutable(true, false);
        folder.toFile().setReadable(true, false);
        folder.resolve("some where").toFile().setExecutable(true, false);
        try (Stream<Path> all = Files.walk(folder.resolve("some where"))) {
            for (Path each : all.toList()) {
                each.toFile().setReadable(true, false);
                each.toFile().setWritable(false, false);
                if (Files.isDirectory(each)) {
                    each.toFile().setExecutable(true, false);
                }
            }
        }
    }

    @Test
    void withoutJavaItReportsWhatToInstall() throws Exception {
        List<String> command = List.of(home.resolve("bin/graphema").toString(), "--version");
        assertEquals(2, run(Map.of("JAVA_HOME", "/nowhere"), command));
        assertEquals("graphema: no Java found: install a Java runtime 17 or newer, or point JAVA_HOME at one\n", error);
    }
}
