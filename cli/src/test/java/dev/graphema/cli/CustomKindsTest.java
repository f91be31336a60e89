package dev.graphema.cli;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.jar.JarEntry;
import java.util.jar.JarOutputStream;
import javax.tools.ToolProvider;
import org.junit.jupiter.api.Test;

/** Settings that use a custom kind of sink, from a library that is only given with an option. */
class CustomKindsTest extends CommandFixture {
    private static final String KIND = """
            package skerry;

            import dev.graphema.option.Option;
            import dev.graphema.option.Options;
            import dev.graphema.sink.Sink;
            import dev.graphema.sink.SinkContext;
            import dev.graphema.sink.SinkKind;
            import java.util.List;

            public final class BellKind implements SinkKind {
                public static final Option<Integer> RINGS = Option.count("rings", 1, 9).meaning("how often it rings");

                @Override
                public String name() {
                    return "bell";
                }

                @Override
                public String meaning() {
                    return "the bell of the ship";
                }

                @Override
                public List<Option<?>> options() {
                    return List.of(RINGS);
                }

                @Override
                public Sink open(Options options, SinkContext context) {
                    return event -> {};
                }
            }
            """;

    @Test
    void theLibraryIsUsedByCheckExplainAndTheSchema() throws IOException {
        Path settings = Files.writeString(
                folder.resolve("graphema.yaml"), "service: deck\nsinks: {signal: {type: bell, rings: 3}}\n");
        assertEquals(2, run("check", settings.toString()));
        assertTrue(error.contains("bell"), error);

        String jar = jar().toString();
        assertEquals(0, run("check", settings.toString(), "--with", jar), error);
        assertEquals(0, run("check", "--schema", "--with", jar));
        assertTrue(output.contains("how often it rings"), output);
        assertEquals(0, run("explain", "skerry.deck", "info", "--settings", settings.toString(), "--with", jar), error);
        assertTrue(output.contains("signal"), output);
        Files.writeString(settings, "sinks: {signal: {type: bell, rings: 30}}\n");
        assertEquals(2, run("check", settings.toString(), "--with", jar));
        assertTrue(error.contains("1:37: \"30\" is not a valid rings"), error);
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

    private Path jar() throws IOException {
        Path source = Files.writeString(folder.resolve("BellKind.java"), KIND);
        Path classes = Files.createDirectories(folder.resolve("classes"));
        int code = ToolProvider.getSystemJavaCompiler()
                .run(
                        null,
                        null,
                        null,
                        "-d",
                        classes.toString(),
                        "-cp",
                        System.getProperty("java.class.path"),
                        source.toString());
        assertEquals(0, code);
        Path jar = folder.resolve("bell.jar");
        try (OutputStream file = Files.newOutputStream(jar);
                JarOutputStream entries = new JarOutputStream(file)) {
            for (String entry : List.of("skerry/BellKind.class")) {
                entries.putNextEntry(new JarEntry(entry));
                entries.write(Files.readAllBytes(classes.resolve(entry)));
            }
            entries.putNextEntry(new JarEntry("META-INF/services/dev.graphema.sink.SinkKind"));
            entries.write("skerry.BellKind\n".getBytes(StandardCharsets.UTF_8));
        }
        return jar;
    }
}
