package dev.graphema.cli;

import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The names in the script that starts the command exist: neither the script nor the JVM reports one that does not. */
class LauncherTest {
    private static final String COMPILED_ONCE = "-XX:CompileCommand=dontinline,";

    @Test
    void methodsThatAreCompiledOnceExist() throws Exception {
        List<String> methods = Files.readAllLines(Path.of("java.options")).stream()
                .filter(line -> line.startsWith(COMPILED_ONCE))
                .map(line -> line.substring(COMPILED_ONCE.length()))
                .toList();
        assertTrue(methods.size() > 10, methods.toString());
        for (String method : methods) {
            String[] parts = method.split("::");
            assertTrue(
                    Arrays.stream(Class.forName(parts[0]).getDeclaredMethods())
                            .anyMatch(each -> each.getName().equals(parts[1])),
                    method);
        }
    }

    @Test
    void verbsOfTheCommandNeedNoOtherLibraries() throws IOException {
        String script = Files.readString(Path.of("../graphema"));
        assertTrue(script.contains("\n    " + String.join(" | ", Main.OWN) + ") ;;\n"), script);
    }

    /** Runs the script of the archive with a Java that prints its arguments. */
    private static String started(Path folder, String options, String... arguments) throws Exception {
        Path java = Files.createDirectories(folder.resolve("bin")).resolve("java");
        Files.writeString(java, "#!/bin/sh\necho \"$MALLOC_ARENA_MAX $*\"\n");
        assertTrue(java.toFile().setExecutable(true));
        List<String> command = new ArrayList<>(List.of("sh", "../dist/src/main/bin/graphema"));
        command.addAll(List.of(arguments));
        ProcessBuilder builder = new ProcessBuilder(command).redirectErrorStream(true);
        builder.environment().put("JAVA_HOME", folder.toString());
        builder.environment().remove("MALLOC_ARENA_MAX");
        builder.environment().put("JDK_JAVA_OPTIONS", options);
        Process process = builder.start();
        return new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    }

    @Test
    void aCollectorHasAHeapOf256MegabytesUnlessAnotherIsGiven(@TempDir Path folder) throws Exception {
        String usual = started(folder, "", "collect");
        assertTrue(usual.startsWith("2 ") && usual.contains(" -Xmx256m -XX:+UseSerialGC "), usual);
        String given = started(folder, "-Xmx1g", "collect");
        assertFalse(given.contains("-Xmx") || given.contains("GC"), given);
        assertFalse(started(folder, "", "find", "collect").contains("-Xmx"));
        assertFalse(started(folder, "", "page").contains("-Xmx"));
    }
}
