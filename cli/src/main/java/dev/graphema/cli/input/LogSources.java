package dev.graphema.cli.input;

import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.lines.LineFiles;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.SeveralSources;
import dev.graphema.segments.SegmentFiles;
import dev.graphema.segments.store.StoreSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** The logs at paths: files of lines, segments, and stores. */
final class LogSources {
    private LogSources() {}

    /** Returns files of lines, segments, and stores, or several of them. */
    static EventSource at(List<Path> paths, LineShape shape) throws IOException, MisuseException {
        List<Path> columns = filesInColumns(paths);
        if (columns.isEmpty()) {
            return files(paths).shaped(shape);
        }
        List<EventSource> sources = new ArrayList<>();
        LineFiles lines = LineFiles.at(paths.stream()
                .filter(path -> !isSegment(path) && !StoreSource.isStore(path))
                .toList());
        if (!lines.files().isEmpty()) {
            sources.add(lines.shaped(shape));
        }
        List<Path> stores = columns.stream()
                .filter(path -> !isSegment(path))
                .map(Path::getParent)
                .toList();
        List<Path> segments = columns.stream()
                .filter(path -> isSegment(path) && !stores.contains(path.getParent()) && !isMadeOf(lines.files(), path))
                .toList();
        if (!segments.isEmpty()) {
            sources.add(SegmentFiles.at(segments).shaped(shape));
        }
        for (Path store : stores) {
            sources.add(StoreSource.at(store).shaped(shape));
        }
        return sources.size() == 1 ? sources.get(0) : new SeveralSources(sources);
    }

    private static boolean isSegment(Path path) {
        return path.toString().endsWith(SegmentFiles.SUFFIX);
    }

    /** Returns whether the log from which a segment was made is one of these, so that its lines are read there. */
    private static boolean isMadeOf(List<Path> logs, Path segment) {
        String file = segment.toString();
        String log = file.substring(0, file.length() - SegmentFiles.SUFFIX.length());
        return Stream.of("", ".gz", ".zst").anyMatch(each -> logs.contains(Path.of(log + each)));
    }

    /** Returns the segments and the manifests of stores at paths and below. */
    private static List<Path> filesInColumns(List<Path> paths) throws IOException {
        List<Path> files = new ArrayList<>();
        for (Path path : paths) {
            if (!Files.isDirectory(path)) {
                Stream.of(path).filter(LogSources::isSegment).forEach(files::add);
                continue;
            }
            try (Stream<Path> below = Files.walk(path)) {
                below.filter(file -> isSegment(file) || StoreSource.isManifest(file))
                        .sorted()
                        .forEach(files::add);
            }
        }
        return files;
    }

    /** Returns files of lines, of which there must be one. */
    static LineFiles files(List<Path> paths) throws IOException, MisuseException {
        LineFiles logs = LineFiles.at(paths);
        if (logs.files().isEmpty()) {
            throw new MisuseException("no .jsonl, .ndjson or .log file in "
                    + paths.stream().map(Path::toString).collect(Collectors.joining(", "))
                    + "; name files or another folder with --in");
        }
        return logs;
    }
}
