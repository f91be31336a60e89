package dev.graphema.lines;

import dev.graphema.condition.Condition;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.Following;
import dev.graphema.query.source.Part;
import dev.graphema.query.source.Plan;
import dev.graphema.query.source.ReadErrors;
import dev.graphema.query.source.Rows;
import dev.graphema.query.source.Scan;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;

/**
 * Files with one event per line, written by Graphema or other programs, compressed or not. Immutable.
 *
 * <pre>{@code
 * EventSource logs = LineFiles.at(List.of(Path.of("logs")));
 * QueryExecutor.answer(Question.where("level >= error").newest(50), logs)
 *         .events()
 *         .forEach(System.out::println);
 * }</pre>
 */
public final class LineFiles implements EventSource {
    private final List<Path> paths;
    private final List<Path> files;
    private final LineShape shape;

    private LineFiles(List<Path> paths, List<Path> files, LineShape shape) {
        this.paths = paths;
        this.files = files;
        this.shape = shape;
    }

    /**
     * Returns the files at paths: files, and folders with all log files below.
     *
     * @throws java.nio.file.NoSuchFileException if a path does not exist
     */
    public static LineFiles at(List<Path> paths) throws IOException {
        return new LineFiles(List.copyOf(paths), LogFileNames.at(paths), LineShape.USUAL);
    }

    /** Returns the source with lines of this shape, which replaces an earlier one. */
    public LineFiles shaped(LineShape shape) {
        return new LineFiles(paths, files, Objects.requireNonNull(shape, "shape"));
    }

    /** Returns the files to read. */
    public List<Path> files() {
        return files;
    }

    @Override
    public String name() {
        return paths.toString();
    }

    @Override
    public Set<Capability> capabilities() {
        return EnumSet.of(Capability.ORDER, Capability.REPEATED_READING, Capability.LIVE);
    }

    @Override
    public Plan plan(Scan scan, CoverageBuilder coverage) throws IOException {
        coverage.files(files.size(), size());
        LineSelection selection = LineSelection.of(scan);
        LineShape asked = shape.asking(selection.fieldNames());
        ShapeFiles shapes = new ShapeFiles(paths);
        List<Part> parts = new ArrayList<>();
        for (int unit = 0; unit < files.size(); unit++) {
            Path file = files.get(unit);
            FileShape shape = new FileShape(file, asked.or(shapes.of(file)));
            if (scan.isInOrder()) {
                parts.add(new WholeFile(file, unit, selection, shape));
                continue;
            }
            try {
                for (FileChunk chunk : FileChunk.of(file, scan.during())) {
                    parts.add(new Chunk(chunk, unit, selection, shape));
                }
            } catch (IOException e) {
                coverage.failed(file.toString(), "cannot be read: " + ReadErrors.of(e));
            }
        }
        return Plan.deciding(scan, parts);
    }

    /**
     * Infers from the first lines of each file how its lines are read.
     *
     * @throws IOException if a file cannot be read
     */
    public List<LogShape> shapes() throws IOException {
        ShapeFiles defined = new ShapeFiles(paths);
        List<LogShape> all = new ArrayList<>();
        for (Path file : files) {
            all.add(new FileShape(file, shape.or(defined.of(file))).inferred());
        }
        return all;
    }

    private long size() throws IOException {
        long size = 0;
        for (Path file : files) {
            try {
                size += Files.size(file);
            } catch (NoSuchFileException e) {
                continue; // it disappeared after it was listed, which is reported when it is read
            }
        }
        return size;
    }

    /** Follows the files and folders from their present end, across rotation. */
    @Override
    public Following follow(Condition where) throws IOException {
        return new FileFollowing(paths, shape, where);
    }

    private record Chunk(FileChunk chunk, int unit, LineSelection selection, FileShape shape) implements Part {
        @Override
        public Rows open(CoverageBuilder coverage) throws IOException {
            return LineRows.open(chunk, shape.get(), selection, coverage);
        }

        @Override
        public String name() {
            return chunk.file().toString();
        }
    }

    /** A file whose bounds are determined when it is opened first. */
    private static final class WholeFile implements Part {
        private final Path file;
        private final int unit;
        private final LineSelection selection;
        private final FileShape shape;
        private FileChunk chunk;
        private boolean isOutside;

        WholeFile(Path file, int unit, LineSelection selection, FileShape shape) {
            this.file = file;
            this.unit = unit;
            this.selection = selection;
            this.shape = shape;
        }

        @Override
        public int unit() {
            return unit;
        }

        @Override
        public Rows open(CoverageBuilder coverage) throws IOException {
            if (chunk == null && !isOutside) {
                chunk = FileChunk.asOne(file, selection.window());
                isOutside = chunk == null;
            }
            return isOutside
                    ? LineRows.none(file, shape.get(), selection, coverage)
                    : LineRows.open(chunk, shape.get(), selection, coverage);
        }

        @Override
        public String name() {
            return file.toString();
        }
    }
}
