package dev.graphema.examples;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import dev.graphema.settings.SettingsSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What the libraries declare for native images: that it exists, and that it is all that their code needs. */
class NativeImageTest {
    private static final ObjectMapper JSON = new ObjectMapper();
    private static final Pattern LOOKED_UP = Pattern.compile("(\\w+)\\.class\\.getMethod\\(\"(\\w+)\"");
    private static final Pattern PROXY = Pattern.compile("proxy\\((\\w+)\\.class");
    private static final Pattern OTHER_REFLECTION =
            Pattern.compile("Class\\.forName|getDeclaredMethod|getDeclaredField|getDeclaredConstructor");

    @ParameterizedTest
    @ValueSource(strings = {"core", "web", "delivery", "sql"})
    void methodsThatTheCodeLooksUpAreDeclared(String module) throws Exception {
        Set<String> used = new TreeSet<>();
        for (Path file : sources(module)) {
            String source = Files.readString(file);
            LOOKED_UP.matcher(source).results().forEach(found -> used.add(found.group(1) + "." + found.group(2)));
            assertTrue(!OTHER_REFLECTION.matcher(source).find(), file + " uses reflection that is not declared");
        }
        Set<String> declared = new TreeSet<>();
        for (JsonNode type : declared(module, "reflect-config.json")) {
            Class<?> loaded = Class.forName(type.get("name").textValue());
            for (JsonNode method : type.path("methods")) {
                declared.add(loaded.getSimpleName() + "." + method.get("name").textValue());
            }
        }
        assertEquals(used, declared);
    }

    @Test
    void proxiesThatTheCodeCreatesAreDeclared() throws IOException {
        Set<String> used = new TreeSet<>();
        for (Path file : sources("sql")) {
            PROXY.matcher(Files.readString(file)).results().forEach(found -> used.add(found.group(1)));
        }
        Set<String> declared = new TreeSet<>();
        for (JsonNode proxy : declared("sql", "proxy-config.json")) {
            String name = proxy.get(0).textValue();
            declared.add(name.substring(name.lastIndexOf('.') + 1));
        }
        assertEquals(used, declared);
    }

    @Test
    void theSettingsOnTheClassPathAreAResourceOfTheImage() throws IOException {
        String pattern = declared("core", "resource-config.json")
                .at("/resources/includes/0/pattern")
                .textValue();
        assertTrue(Pattern.matches(pattern, SettingsSource.RESOURCE), pattern);
    }

    private static JsonNode declared(String module, String file) throws IOException {
        Path path =
                Path.of("..", module, "src/main/resources/META-INF/native-image/dev.graphema/graphema-" + module, file);
        return Files.exists(path) ? JSON.readTree(path.toFile()) : JSON.createArrayNode();
    }

    private static List<Path> sources(String module) throws IOException {
        try (Stream<Path> files = Files.walk(Path.of("..", module, "src/main/java"))) {
            return files.filter(file -> file.toString().endsWith(".java")).toList();
        }
    }
}
