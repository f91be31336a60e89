package dev.graphema.cli.store;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.output.Counted;
import dev.graphema.cli.output.Progress;
import dev.graphema.cli.verb.Verb;
import dev.graphema.lines.LineFiles;
import dev.graphema.segments.SegmentConversion;
import dev.graphema.segments.SegmentFiles;
import dev.graphema.segments.SegmentLines;
import dev.graphema.segments.store.StoreCheck;
import dev.graphema.segments.store.StoreSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Converts logs into segments, and checks segments. */
public final class SegmentVerb extends Verb {
    private final Argument<List<String>> in = own().texts(
                    "--in",
                    "FILE|DIR",
                    "Log files, or folders with them; with --check: segments and stores. May be given several times. Default: the"
                            + " current folder.");
    private final Argument<Path> to = own().path("--to", "DIR", "The folder of the segments, which is created.");
    private final Argument<Boolean> check =
            own().flag("--check", "Check every checksum of segments and stores instead.");
    private boolean hasFailed;

    public SegmentVerb() {
        super("segment", "Converts logs into segments, which take a small part of the space.");
    }

    @Override
    protected String details() {
        return "Each file becomes a segment of its own, in which every line is kept byte by byte. All search commands read"
                + " segments. A file that has a segment already is skipped, so an interrupted conversion can be continued."
                + " Exit code 2 if a file could not be converted, or with --check, if something is damaged.";
    }

    @Override
    protected String examples() {
        return """
                graphema segment --in logs --to segments
                graphema find 'level >= error' --in segments
                graphema segment --check --in segments
                """;
    }

    @Override
    public int call() throws IOException, MisuseException {
        List<Path> paths = (in.isGiven() ? in.value() : List.of("."))
                .stream().map(Path::of).toList();
        if (check.value()) {
            return checked(paths);
        }
        if (!to.isGiven()) {
            throw new MisuseException("there is no folder for the segments: expected --to and a folder");
        }
        List<Path> logs = LineFiles.at(paths).files();
        if (logs.isEmpty()) {
            throw new MisuseException("no .jsonl, .ndjson or .log file there; name files or another folder with --in");
        }
        Files.createDirectories(to.value());
        List<Path> segments = new ArrayList<>();
        for (Path log : logs) {
            Path segment = segment(log, segments);
            segments.add(segment);
            if (Files.exists(segment)) {
                console().print(log + ": " + segment + " is there already");
            } else if (!convert(log, segment)) {
                return FAILURE;
            }
        }
        console().note("to search them: " + console().command() + " find 'level >= error' --in " + to.value());
        return hasFailed ? FAILURE : 0;
    }

    /** Returns a name that no other file of this conversion has. */
    private Path segment(Path log, List<Path> taken) {
        String name = log.getFileName().toString().replaceAll("\\.(gz|zst)$", "");
        Path segment = to.value().resolve(name + SegmentFiles.SUFFIX);
        for (int number = 2; taken.contains(segment); number++) {
            segment = to.value().resolve(name + "-" + number + SegmentFiles.SUFFIX);
        }
        return segment;
    }

    /** Returns false if the conversion was stopped. */
    private boolean convert(Path log, Path segment) {
        Progress progress = new Progress(console());
        try {
            SegmentConversion.Result result = SegmentConversion.convert(log, segment, progress);
            if (result == null) {
                return false;
            }
            console()
                    .print(log + ": " + Counted.of(result.lines(), "line") + ", " + Counted.size(result.bytes())
                            + "; in the segment, " + Counted.size(result.segmentBytes()));
        } catch (IOException e) {
            hasFailed = true;
            console().note(log + " could not be converted: " + e.getMessage());
        } finally {
            progress.clear();
        }
        return true;
    }

    private int checked(List<Path> paths) throws IOException, MisuseException {
        List<Path> stores = paths.stream().filter(StoreSource::isStore).toList();
        List<Path> segments = SegmentFiles.at(
                        paths.stream().filter(path -> !stores.contains(path)).toList())
                .files();
        if (segments.isEmpty() && stores.isEmpty()) {
            throw new MisuseException("no " + SegmentFiles.SUFFIX
                    + " file and no store there; name segments or another folder with --in");
        }
        int damaged = 0;
        for (Path store : stores) {
            damaged += reported(StoreCheck.damage(store));
        }
        for (Path segment : segments) {
            try {
                damaged += reported(SegmentLines.damage(segment));
            } catch (IOException e) {
                damaged += reported(List.of(e.getMessage()));
            }
        }
        String what = Stream.of(Counted.of(stores.size(), "store"), Counted.of(segments.size(), "segment"))
                .filter(each -> !each.startsWith("0 "))
                .collect(Collectors.joining(" and "));
        console().note(what + ", " + damaged + " damaged");
        return damaged > 0 ? FAILURE : 0;
    }

    /** Prints the problems; returns 1 if there are any. */
    private int reported(List<String> problems) {
        problems.forEach(problem -> console().print(problem));
        return problems.isEmpty() ? 0 : 1;
    }

    @Override
    public boolean hasFailed() {
        return hasFailed;
    }
}
