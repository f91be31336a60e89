package dev.graphema.segments.store;

import dev.graphema.condition.Condition;
import dev.graphema.lines.LineStream;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.Window;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.Following;
import dev.graphema.query.source.Part;
import dev.graphema.query.source.Plan;
import dev.graphema.query.source.Rows;
import dev.graphema.query.source.Scan;
import dev.graphema.query.source.SeveralSources;
import dev.graphema.segments.SegmentFiles;
import dev.graphema.segments.log.LogLines;
import dev.graphema.segments.log.LogRows;
import dev.graphema.segments.log.LogTimes;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.atomic.AtomicBoolean;

/**
 * A store as a source, also while another process writes it. Each question sees the store as it was at one moment: an event is in it
 * once or not at all. Immutable, and safe to share between threads.
 */
public final class StoreSource implements EventSource {
    private static final LogPlace ALL = new LogPlace(-1, 0);

    private final StoreFolder folder;
    private final LineShape shape;

    /** The times of logs; they are worth their reading from the second question on. */
    private final LogTimes times = new LogTimes();

    private final AtomicBoolean isAskedAgain = new AtomicBoolean();

    private StoreSource(StoreFolder folder, LineShape shape) {
        this.folder = folder;
        this.shape = shape;
    }

    /** Returns whether a folder is a store. */
    public static boolean isStore(Path folder) {
        return isManifest(folder.resolve(ManifestFile.NAME));
    }

    /** Returns whether a file is the manifest of a store. */
    public static boolean isManifest(Path file) {
        return file.endsWith(ManifestFile.NAME)
                && Files.isRegularFile(file)
                && Files.isRegularFile(file.resolveSibling(Store.LOCK));
    }

    /**
     * Returns the store in a folder.
     *
     * @throws NoSuchFileException if there is none
     * @throws IOException if its manifest is damaged
     */
    public static StoreSource at(Path folder) throws IOException {
        ManifestFile.read(folder);
        return new StoreSource(new StoreFolder(folder), LineShape.USUAL);
    }

    /** As {@link SegmentFiles#shaped}. */
    public StoreSource shaped(LineShape shape) {
        return new StoreSource(folder, Objects.requireNonNull(shape, "shape"));
    }

    @Override
    public String name() {
        return folder.path().toString();
    }

    @Override
    public Set<Capability> capabilities() {
        return EnumSet.allOf(Capability.class);
    }

    @Override
    public Plan plan(Scan scan, CoverageBuilder coverage) throws IOException {
        return snapshot().plan(scan, coverage);
    }

    /** Replaced files are kept for a while, so that a snapshot can be read although the store changes. */
    @Override
    public EventSource snapshot() throws IOException {
        Manifest manifest = ManifestFile.read(folder.path());
        times.keepFrom(manifest.firstLog());
        return new Snapshot(manifest.segments(), folder.logsFrom(manifest.firstLog()), ALL);
    }

    /**
     * The events until a moment, and those after it: each event is in one of both.
     *
     * @param past the events that were appended before
     * @param following passes on those that are appended later
     */
    public record PastAndFollowing(EventSource past, StoreFollowing following) {}

    /**
     * Divides the events by the present moment.
     *
     * @param where a condition for the events that are followed
     */
    public PastAndFollowing divided(Condition where) throws IOException {
        Manifest manifest = ManifestFile.read(folder.path());
        List<Long> logs = folder.logsFrom(manifest.firstLog());
        StoreFollowing following = new StoreFollowing(folder, where, shape, manifest, logs);
        return new PastAndFollowing(new Snapshot(manifest.segments(), logs, following.place()), following);
    }

    /** What the store consists of at one moment. */
    private final class Snapshot implements EventSource {
        private final List<Manifest.Entry> segments;
        private final List<Long> logs;
        private final LogPlace end;

        Snapshot(List<Manifest.Entry> segments, List<Long> logs, LogPlace end) {
            this.segments = segments;
            this.logs = logs;
            this.end = end;
        }

        @Override
        public String name() {
            return StoreSource.this.name();
        }

        @Override
        public Set<Capability> capabilities() {
            return EnumSet.of(Capability.ORDER, Capability.REPEATED_READING);
        }

        @Override
        public Plan plan(Scan scan, CoverageBuilder coverage) throws IOException {
            List<Path> inWindow = new ArrayList<>();
            for (Manifest.Entry each : segments) {
                if (each.to() >= scan.during().from()
                        && each.from() <= scan.during().to()) {
                    inWindow.add(folder.segment(each.file()));
                }
            }
            EventSource sealed = SegmentFiles.of(inWindow).shaped(shape);
            return new SeveralSources(List.of(sealed, new Logs(logs, end))).plan(scan, coverage);
        }
    }

    /** The events that are not in segments yet. */
    private final class Logs implements EventSource {
        private final List<Long> numbers;
        private final LogPlace end;

        Logs(List<Long> numbers, LogPlace end) {
            this.numbers = numbers;
            this.end = end;
        }

        @Override
        public Set<Capability> capabilities() {
            return EnumSet.allOf(Capability.class);
        }

        @Override
        public Plan plan(Scan scan, CoverageBuilder coverage) throws IOException {
            boolean areTimesUsed = isAskedAgain.getAndSet(true)
                    && !scan.during().equals(Window.ALWAYS)
                    && shape.equals(LineShape.USUAL);
            List<Part> parts = new ArrayList<>();
            for (int i = 0; i < numbers.size(); i++) {
                Path file = folder.log(numbers.get(i));
                coverage.files(1, Files.size(file));
                long to = numbers.get(i) == end.log() ? end.offset() : Long.MAX_VALUE;
                LogTimes.Stretch stretch =
                        areTimesUsed ? times.stretch(numbers.get(i), file, scan.during()) : LogTimes.Stretch.WHOLE;
                if (stretch != null && stretch.from() < to) {
                    parts.add(new LogPart(file, stretch, to, i, scan, shape));
                }
            }
            return Plan.deciding(scan, parts);
        }
    }

    /** The events of a log. */
    private record LogPart(Path file, LogTimes.Stretch stretch, long to, int unit, Scan scan, LineShape shape)
            implements Part {
        @Override
        public Rows open(CoverageBuilder coverage) throws IOException {
            long end = Math.min(to, stretch.to());
            LogLines lines =
                    new LogLines(file, stretch.from(), end, damage -> coverage.failed(file.toString(), damage));
            Rows rows;
            try {
                rows = LineStream.uncompressed(file.toString(), lines, shape)
                        .plan(scan, new CoverageBuilder(Control.NONE))
                        .parts()
                        .get(0)
                        .open(coverage);
            } catch (IOException | RuntimeException | Error e) {
                lines.close();
                throw e;
            }
            rows = new LogRows(rows, lines, stretch.bytesBefore());
            return scan.isInOrder() ? SortedRows.of(rows, scan.projection()) : rows;
        }

        @Override
        public String name() {
            return file.toString();
        }
    }

    /** Passes on events as they are appended. */
    @Override
    public Following follow(Condition where) throws IOException {
        return divided(where).following();
    }
}
