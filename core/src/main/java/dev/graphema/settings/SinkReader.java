package dev.graphema.settings;

import dev.graphema.event.Level;
import dev.graphema.event.Sizes;
import dev.graphema.sink.FileOptions;
import java.math.BigDecimal;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import org.snakeyaml.engine.v2.nodes.Node;

/** Reads one sink from a settings file. */
final class SinkReader {
    private static final Set<String> OF_CONSOLES = Set.of("stream");
    private static final Set<String> OF_FILES = Set.of("path", "rotate", "keep", "compress", "sync", "permissions");

    private final Yaml yaml;
    private final String name;
    private final Map<String, Node> given = new TreeMap<>();
    private final List<Consumer<FileOptions.Builder>> fileOptions = new ArrayList<>();

    private String kind;
    private Level threshold = Level.TRACE;
    private SinkSettings.FormatName format;
    private SinkSettings.Stream stream = SinkSettings.Stream.OUTPUT;
    private Path path;

    SinkReader(Yaml yaml, String name) {
        this.yaml = yaml;
        this.name = name;
    }

    /** What the node says, or null when something in it is wrong; that has been noted then. */
    SinkSettings read(Node node) {
        Map<String, Consumer<Node>> readers = new LinkedHashMap<>();
        readers.put(
                "type",
                value ->
                        yaml.word(value, "type of sink", SinkSettings.kinds(), kind -> kind, kind -> this.kind = kind));
        readers.put("level", value -> yaml.level(value, level -> threshold = level));
        readers.put(
                "format",
                value -> yaml.word(
                        value,
                        "format",
                        List.of(SinkSettings.FormatName.values()),
                        SinkSettings.FormatName::text,
                        format -> this.format = format));
        readers.put(
                "stream",
                value -> yaml.word(
                        value,
                        "stream",
                        List.of(SinkSettings.Stream.values()),
                        SinkSettings.Stream::text,
                        stream -> this.stream = stream));
        readers.put("path", value -> yaml.scalar(value, "a path", text -> path = Path.of(text)));
        readers.put("rotate", this::rotate);
        readers.put("keep", this::keep);
        readers.put("compress", value -> truth(value, FileOptions.Builder::compress));
        readers.put("sync", value -> truth(value, FileOptions.Builder::sync));
        readers.put(
                "permissions",
                value -> yaml.scalar(
                        value, "permissions such as rw-r-----", text -> checked(builder -> builder.permissions(text))));
        readers.replaceAll((key, reader) -> value -> {
            given.put(key, value);
            reader.accept(value);
        });
        int problemsBefore = yaml.problems().size();
        yaml.mapping(node, "the sink " + name, readers);
        return yaml.problems().size() > problemsBefore ? null : finished(node);
    }

    private SinkSettings finished(Node node) {
        if (kind == null) {
            yaml.problem(
                    node,
                    "the sink " + name + " has no type: expected type: "
                            + String.join(" or type: ", SinkSettings.kinds()));
            return null;
        }
        boolean isFile = kind.equals("file");
        for (String key : isFile ? OF_CONSOLES : OF_FILES) {
            if (given.containsKey(key)) {
                yaml.problem(
                        given.get(key),
                        "a " + kind + " has no " + key + ": expected type: " + (isFile ? "console" : "file")
                                + ", or no " + key);
                return null;
            }
        }
        if (!isFile) {
            return new SinkSettings.Console(
                    threshold, format == null ? SinkSettings.FormatName.COLUMNS : format, stream);
        }
        if (path == null) {
            yaml.problem(node, "the sink " + name + " has no path: expected one such as path: logs/deck.jsonl");
            return null;
        }
        FileOptions.Builder options = FileOptions.builder(path);
        fileOptions.forEach(option -> option.accept(options));
        return new SinkSettings.File(
                threshold, format == null ? SinkSettings.FormatName.JSON : format, options.build());
    }

    private void rotate(Node node) {
        Map<String, Consumer<Node>> readers = new LinkedHashMap<>();
        readers.put("at", value -> size(value, FileOptions.Builder::rotateAt));
        readers.put(
                "every",
                value -> yaml.word(
                        value,
                        "time to rotate",
                        List.of(FileOptions.Every.values()),
                        FileOptions.Every::text,
                        every -> checked(builder -> builder.rotateEvery(every))));
        yaml.mapping(node, "rotate", readers);
    }

    private void keep(Node node) {
        Map<String, Consumer<Node>> readers = new LinkedHashMap<>();
        readers.put(
                "days",
                value -> number(
                        value, "a number of days", days -> checked(builder -> builder.keepAge(Duration.ofDays(days)))));
        readers.put(
                "count",
                value -> number(
                        value,
                        "a number of files",
                        count -> checked(builder -> builder.keepCount(Math.toIntExact(count)))));
        readers.put("total", value -> size(value, FileOptions.Builder::keepTotal));
        yaml.mapping(node, "keep", readers);
    }

    private void size(Node node, BiConsumer<FileOptions.Builder, Long> option) {
        yaml.scalar(node, "a size such as 50MB", text -> {
            BigDecimal bytes = Sizes.parse(text);
            if (bytes == null) {
                throw new IllegalArgumentException("\"" + text + "\" is no size: expected one such as 50MB or 2GB");
            }
            checked(builder -> option.accept(builder, bytes.longValue()));
        });
    }

    private void number(Node node, String what, Consumer<Long> reader) {
        yaml.scalar(node, what, text -> {
            if (!text.matches("[0-9]{1,9}")) {
                throw new IllegalArgumentException(
                        "\"" + text + "\" is no whole number: expected " + what + " such as 14");
            }
            reader.accept(Long.parseLong(text));
        });
    }

    private void truth(Node node, BiConsumer<FileOptions.Builder, Boolean> option) {
        yaml.truth(node, value -> checked(builder -> option.accept(builder, value)));
    }

    /** Tries the option at once, so that a bad value is told at its place, and keeps it for later. */
    private void checked(Consumer<FileOptions.Builder> option) {
        option.accept(FileOptions.builder(Path.of("x")));
        fileOptions.add(option);
    }
}
