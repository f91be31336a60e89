package dev.graphema.cli;

import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;

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
}
