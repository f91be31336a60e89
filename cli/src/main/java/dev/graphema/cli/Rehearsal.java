package dev.graphema.cli;

import dev.graphema.cli.output.Console;
import dev.graphema.terminal.Paint;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/**
 * Runs the usual commands without output, for a JVM that then stores all loaded classes in an archive ({@code
 * -XX:ArchiveClassesAtExit}), which halves the start time.
 */
final class Rehearsal {
    private static final List<List<String>> QUESTIONS = List.of(
            List.of("find", "level = error", "--limit", "5", "--from", "2026-01-01"),
            List.of("find", "level = error", "--limit", "1", "--whole"),
            List.of("find", "lock_wait_ms > 200 and \"lanes\"", "--limit", "1"),
            List.of("find", "level = error", "--limit", "1", "--as", "json"),
            List.of("tally", "service", "level >= warn"),
            List.of("tally", "service,level", "--of", "sequence"),
            List.of("timeline", "level >= error", "--step", "1m"),
            List.of("timeline", "--by", "service"),
            List.of("faults"),
            List.of("trail", "release = 2.4.1"),
            List.of("contrast", "service = gate", "--than", "service = deck"));

    /** Lines of other programs. */
    private static final String FOREIGN = """
            {"ts":1795442400.25,"level":"info","logger":"gate","msg":"opened","request":{"lane":"A3"},"status":200}
            {"ts":1795442401.25,"level":"warn","logger":"gate","msg":"late \\"SK-204\\"","request":{"lane":"A3"},"status":503}
            """;

    private static final List<List<String>> FOREIGN_QUESTIONS =
            List.of(List.of("find", "status >= 500"), List.of("tally", "level"), List.of("tally", "message.shape"));

    private static final List<List<String>> SEGMENT_QUESTIONS = List.of(
            List.of("find", "level = error", "--limit", "5"),
            List.of("find", "lock_wait_ms > 200 and \"lanes\"", "--limit", "1"),
            List.of("tally", "service", "level >= warn"),
            List.of("faults"));

    private Rehearsal() {}

    /** @param arguments a folder of logs, and the path for a report */
    public static void main(String[] arguments) throws IOException {
        Console console = new Console(
                "graphema",
                InputStream.nullInputStream(),
                OutputStream.nullOutputStream(),
                new PrintStream(OutputStream.nullOutputStream(), true, StandardCharsets.UTF_8),
                Paint.NONE,
                0,
                ZoneOffset.UTC,
                () -> false);
        ask(QUESTIONS, arguments[0], console);
        Path foreign = Files.writeString(Path.of(arguments[1] + ".jsonl"), FOREIGN);
        ask(FOREIGN_QUESTIONS, foreign.toString(), console);
        Files.delete(foreign);
        Path segments = Path.of(arguments[1] + ".segments");
        Main.run(console, "segment", "--in", arguments[0], "--to", segments.toString());
        ask(SEGMENT_QUESTIONS, segments.toString(), console);
        delete(segments);
        // As the command itself does it, which ends the process.
        Main.main(new String[] {"find", "level = error", "--report", arguments[1], "--in", arguments[0]});
    }

    private static void delete(Path folder) throws IOException {
        try (Stream<Path> files = Files.walk(folder)) {
            for (Path each : files.sorted(Comparator.reverseOrder()).toList()) {
                Files.delete(each);
            }
        }
    }

    private static void ask(List<List<String>> questions, String in, Console console) {
        for (List<String> question : questions) {
            List<String> words = new ArrayList<>(question);
            words.addAll(List.of("--in", in));
            Main.run(console, words.toArray(new String[0]));
        }
    }
}
