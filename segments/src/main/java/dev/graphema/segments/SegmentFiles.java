package dev.graphema.segments;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.lines.LineStream;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.partial.CellCounts;
import dev.graphema.query.partial.Partial;
import dev.graphema.query.partial.SideCounts;
import dev.graphema.query.partial.ValueCounts;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.Following;
import dev.graphema.query.source.Part;
import dev.graphema.query.source.Plan;
import dev.graphema.query.source.ReadErrors;
import dev.graphema.query.source.Rows;
import dev.graphema.query.source.Scan;
import dev.graphema.segments.file.Directory;
import dev.graphema.segments.file.SegmentException;
import dev.graphema.segments.file.SegmentFile;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Segments as a source. Immutable, and safe to share between threads. */
public final class SegmentFiles implements EventSource {
    /** The end of the names of segments. */
    public static final String SUFFIX = ".gseg";

    private final List<Path> files;
    private final LineShape shape;

    private SegmentFiles(List<Path> files, LineShape shape) {
        this.files = List.copyOf(files);
        this.shape = shape;
    }

    /**
     * Returns the segments at paths: files, and folders with all segments below.
     *
     * @throws NoSuchFileException if a path does not exist
     */
    public static SegmentFiles at(List<Path> paths) throws IOException {
        List<Path> files = new ArrayList<>();
        for (Path path : paths) {
            if (!Files.exists(path)) {
                throw new NoSuchFileException(path.toString());
            }
            if (!Files.isDirectory(path)) {
                files.add(path);
                continue;
            }
            try (Stream<Path> below = Files.walk(path)) {
                below.filter(file -> file.toString().endsWith(SUFFIX)).sorted().forEach(files::add);
            }
        }
        return new SegmentFiles(files, LineShape.USUAL);
    }

    /** Returns these segments, whose existence is not checked until they are read. */
    public static SegmentFiles of(List<Path> segments) {
        return new SegmentFiles(segments, LineShape.USUAL);
    }

    /**
     * Returns the source with this shape: how lines that are not Graphema JSON are read, and the parts of texts that have a
     * name.
     */
    public SegmentFiles shaped(LineShape shape) {
        return new SegmentFiles(files, Objects.requireNonNull(shape, "shape"));
    }

    /** Returns the segments. */
    public List<Path> files() {
        return files;
    }

    @Override
    public String name() {
        return files.toString();
    }

    @Override
    public Set<Capability> capabilities() {
        return EnumSet.allOf(Capability.class);
    }

    @Override
    public Plan plan(Scan scan, CoverageBuilder coverage) throws IOException {
        List<Part> parts = new ArrayList<>();
        RecentGroups recent = new RecentGroups();
        for (int i = 0; i < files.size(); i++) {
            Path file = files.get(i);
            try (SegmentFile segment = SegmentFile.open(file)) {
                coverage.files(1, segment.size());
                // Lines with a shape and the others are units of their own, since their positions are of different
                // kinds.
                add(segment, 2 * i, scan, recent, parts);
            } catch (IOException e) {
                coverage.files(1, 0);
                coverage.failed(
                        file.toString(),
                        e instanceof SegmentException ? e.getMessage() : "cannot be read: " + ReadErrors.of(e));
            }
        }
        return Plan.deciding(scan, parts);
    }

    private void add(SegmentFile segment, int unit, Scan scan, RecentGroups recent, List<Part> parts) {
        LineShape asked = shape.asking(fieldNames(scan));
        OpenedSegment opened = new OpenedSegment(segment.path(), segment.contents(), scan, asked, recent);
        List<SegmentRows.PlacedGroup> inWindow = new ArrayList<>();
        long lines = 0;
        boolean hasOthers = false;
        for (Directory.Group group : segment.contents().groups()) {
            boolean isInWindow = group.rows() > 0
                    && (scan.during().isAlways()
                            || group.lastTime() >= scan.during().from()
                                    && group.firstTime() < scan.during().to());
            if (isInWindow) {
                inWindow.add(new SegmentRows.PlacedGroup(group, lines));
            }
            lines += group.lines();
            hasOthers |= group.others() != null;
        }
        if (scan.isInOrder() && !inWindow.isEmpty()) {
            parts.add(new Groups(opened, unit, inWindow));
        } else {
            inWindow.forEach(group -> parts.add(new Groups(opened, unit, List.of(group))));
        }
        if (hasOthers) {
            parts.add(new Others(segment.path(), unit + 1, scan, asked));
        }
    }

    private static Set<String> fieldNames(Scan scan) {
        return Stream.concat(scan.where().names().stream(), scan.projection().listed().stream())
                .map(Name::field)
                .filter(Objects::nonNull)
                .collect(Collectors.toSet());
    }

    /** Follows nothing, because segments never change. */
    @Override
    public Following follow(Condition where) {
        return new Unchanging();
    }

    private static final class Unchanging implements Following {
        private final CoverageBuilder coverage = new CoverageBuilder(Control.NONE);

        @Override
        public boolean poll(Listener listener) {
            return false;
        }

        @Override
        public Coverage coverage() {
            return coverage.coverage();
        }

        @Override
        public void close() {
            // there is nothing open
        }
    }

    /** Groups of lines in Graphema JSON. */
    private record Groups(OpenedSegment segment, int unit, List<SegmentRows.PlacedGroup> groups) implements Part {
        @Override
        public Rows open(CoverageBuilder coverage) throws IOException {
            return new SegmentRows(segment, groups, coverage);
        }

        @Override
        public <A extends Answer> boolean addTo(Partial<A> partial, CoverageBuilder coverage) throws IOException {
            boolean isCounted = partial instanceof ValueCounts counts && counts.countsCombinations();
            boolean isCompared = partial instanceof SideCounts && segment.comparedValues() != null;
            boolean isMapped = partial instanceof CellCounts;
            if (!isCounted && !isCompared && !isMapped) {
                return false;
            }
            try (SegmentRows rows = new SegmentRows(segment, groups, coverage)) {
                if (isCounted) {
                    rows.countInto((ValueCounts) partial);
                } else if (isMapped) {
                    rows.mapInto((CellCounts) partial);
                } else {
                    rows.compareInto((SideCounts) partial, segment.comparedValues());
                }
            }
            return true;
        }

        @Override
        public String name() {
            return segment.path().toString();
        }
    }

    /** All lines of a file that are kept unchanged; they are read as those of any log. */
    private record Others(Path path, int unit, Scan scan, LineShape shape) implements Part {
        @Override
        public Rows open(CoverageBuilder coverage) throws IOException {
            LineStream stream = LineStream.uncompressed(path.toString(), new OtherLines(path, coverage), shape);
            return stream.plan(scan, new CoverageBuilder(Control.NONE))
                    .parts()
                    .get(0)
                    .open(coverage);
        }

        @Override
        public String name() {
            return path.toString();
        }
    }
}
