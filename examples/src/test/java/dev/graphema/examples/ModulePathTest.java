package dev.graphema.examples;

import static org.junit.jupiter.api.Assertions.assertEquals;

import java.io.File;
import java.io.IOException;
import java.io.StringWriter;
import java.lang.module.ModuleFinder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import javax.tools.JavaCompiler;
import javax.tools.ToolProvider;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A program with a module of its own starts from the module path, with each module of Graphema. */
class ModulePathTest {
    /** What is on the class path and is needed by the modules; other libraries of the tests are no modules. */
    private static final List<String> LIBRARIES = List.of(
            "re2j",
            "snakeyaml-engine",
            "jackson-core",
            "zstd-jni",
            "protobuf-java",
            "opentelemetry-proto",
            "tomcat-embed-core",
            "tomcat-annotations-api",
            "jakarta.mail-api",
            "angus-mail",
            "jakarta.activation-api",
            "angus-activation",
            "kafka-clients",
            "slf4j-api",
            "commons-cli",
            "jmustache",
            "jline-terminal",
            "jline-native",
            "junit-jupiter-api",
            "junit-platform-commons",
            "opentest4j",
            "apiguardian-api");

    @TempDir
    private Path folder;

    @ParameterizedTest
    @ValueSource(
            strings = {
                "core",
                "query",
                "lines",
                "segments",
                "remote",
                "collector",
                "web",
                "delivery",
                "sql",
                "kafka",
                "testkit",
                "cli"
            })
    void aProgramStarts(String module) throws IOException, InterruptedException {
        String program = switch (module) {
            case "core" -> """
                            try (var graphema = dev.graphema.Graphema.isolated(s -> {})) {
                                graphema.logger("a").info("started", f -> f.put("n", 1));
                            }
                            """;
            case "query" -> """
                            dev.graphema.query.source.QueryExecutor.answer(
                                    dev.graphema.query.Question.where("level >= warn").newest(5),
                                    new dev.graphema.query.source.MemorySource(java.util.List.of()));
                            """;
            case "lines" -> """
                            var file = java.nio.file.Files.writeString(java.nio.file.Path.of("a.jsonl"),
                                    "{\\"time\\":\\"2026-05-15T06:31:02Z\\",\\"message\\":\\"held\\"}");
                            dev.graphema.query.source.QueryExecutor.answer(
                                    dev.graphema.query.Question.all().counts("message"),
                                    dev.graphema.lines.LineFiles.at(java.util.List.of(file)));
                            """;
            case "segments" -> """
                            var file = java.nio.file.Path.of("a.gseg");
                            try (var writer = new dev.graphema.segments.SegmentWriter(file)) {
                                writer.add("held".getBytes(), 0, 4);
                                writer.finish();
                            }
                            dev.graphema.query.source.QueryExecutor.answer(
                                    dev.graphema.query.Question.all().counts("message"),
                                    dev.graphema.segments.SegmentFiles.at(java.util.List.of(file)));
                            """;
            case "remote" ->
                "dev.graphema.remote.RemoteSource.at(java.net.URI.create(\"http://127.0.0.1:9\"), null).capabilities();";
            case "collector" -> """
                            dev.graphema.collector.Collector.start(dev.graphema.collector.CollectorOptions.usual(
                                    java.nio.file.Path.of("store"), System.out::println).port(0)).close();
                            """;
            case "web" -> "dev.graphema.web.RequestFilter.of(dev.graphema.Logger.named(\"web\"));";
            case "delivery" -> settings("url: http://127.0.0.1:9/events", "http");
            case "sql" -> settings("url: jdbc:postgresql://127.0.0.1/ferry", "sql");
            case "kafka" -> settings("servers: '127.0.0.1:9092', topic: skerry", "kafka");
            case "testkit" -> "dev.graphema.testkit.EventCapture.start().close();";
            default -> "new dev.graphema.cli.verb.FindVerb();";
        };
        assertEquals("done\n", run(module, program));
    }

    private static String settings(String option, String kind) {
        return """
                var file = java.nio.file.Files.writeString(java.nio.file.Path.of("graphema.yaml"),
                        "sinks: {there: {type: %s, %s}}");
                dev.graphema.settings.SettingsSource.of(file).read();
                """.formatted(kind, option);
    }

    private String run(String module, String program) throws IOException, InterruptedException {
        Path sources = Files.createDirectories(folder.resolve("source"));
        Path info = Files.writeString(
                sources.resolve("module-info.java"), "module skerry.user { requires dev.graphema." + module + "; }");
        Path main = Files.createDirectories(sources.resolve("skerry/user")).resolve("Main.java");
        Files.writeString(main, """
                package skerry.user;
                public final class Main {
                    public static void main(String[] args) throws Exception {
                        %s
                        System.out.println("done");
                    }
                }
                """.formatted(program));
        JavaCompiler compiler = ToolProvider.getSystemJavaCompiler();
        StringWriter messages = new StringWriter();
        boolean isCompiled = compiler.getTask(
                        messages,
                        null,
                        null,
                        List.of(
                                "-p",
                                modulePath(),
                                "-d",
                                folder.resolve("classes").toString()),
                        null,
                        compiler.getStandardFileManager(null, null, null).getJavaFileObjects(info, main))
                .call();
        assertEquals(true, isCompiled, messages.toString());
        Process process = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-p",
                        folder.resolve("classes") + File.pathSeparator + modulePath(),
                        "-m",
                        "skerry.user/skerry.user.Main")
                .directory(folder.toFile())
                .redirectErrorStream(true)
                .start();
        String output = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        assertEquals(0, process.waitFor(), output);
        return output.lines().reduce("", (one, other) -> other) + "\n";
    }

    private static String modulePath() {
        List<String> path = new ArrayList<>();
        for (String entry : System.getProperty("java.class.path").split(File.pathSeparator)) {
            String name = Path.of(entry).getFileName().toString();
            boolean isLibrary = LIBRARIES.stream().anyMatch(each -> name.matches(each + "-[0-9].*\\.jar"));
            if (isLibrary || isGraphema(Path.of(entry))) {
                path.add(entry);
            }
        }
        return String.join(File.pathSeparator, path);
    }

    private static boolean isGraphema(Path entry) {
        if (!Files.isDirectory(entry) && !entry.getFileName().toString().startsWith("graphema-")) {
            return false;
        }
        Set<String> names = ModuleFinder.of(entry).findAll().stream()
                .map(module -> module.descriptor().name())
                .collect(Collectors.toSet());
        return names.stream().anyMatch(name -> name.startsWith("dev.graphema."));
    }
}
