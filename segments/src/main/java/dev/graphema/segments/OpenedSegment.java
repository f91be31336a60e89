package dev.graphema.segments;

import dev.graphema.event.Event;
import dev.graphema.lines.form.JsonLine;
import dev.graphema.lines.form.UnreadableLineException;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.Scan;
import dev.graphema.segments.file.Directory;
import dev.graphema.segments.file.SegmentException;
import dev.graphema.segments.file.SegmentFile;
import java.io.IOException;
import java.nio.file.Path;

/** A segment for a scan, whose parts share what is known of it. Safe to share between threads. */
final class OpenedSegment {
    private final Path path;
    private final Directory directory;
    private final Scan scan;
    private final LineShape shape;
    private final RecentGroups recent;
    private ShapeReadings readings;
    private boolean areComparedKnown;
    private ComparedValues comparedValues;
    private boolean isTraceKnown;

    /** The trace that all events of the answer have; null if there is none. */
    private byte[] trace;

    OpenedSegment(Path path, Directory directory, Scan scan, LineShape shape, RecentGroups recent) {
        this.recent = recent;
        this.path = path;
        this.directory = directory;
        this.scan = scan;
        this.shape = shape;
    }

    Path path() {
        return path;
    }

    Scan scan() {
        return scan;
    }

    LineShape shape() {
        return shape;
    }

    Directory directory() {
        return directory;
    }

    /** Opens the file again. */
    SegmentFile open() throws IOException {
        return SegmentFile.open(path, directory);
    }

    /** Returns the readings of the names of the scan. */
    synchronized ShapeReadings readings() {
        if (readings == null) {
            readings = new ShapeReadings(directory, SegmentRows.names(scan), shape);
        }
        return readings;
    }

    /** Returns whether no event of a group can be in the answer, as far as the filter of the group shows. */
    boolean isExcluded(Directory.Group group, SegmentFile file, CoverageBuilder coverage) throws IOException {
        byte[] trace = requiredTrace();
        return trace != null && RequiredTrace.isMissing(trace, group, file, coverage);
    }

    private synchronized byte[] requiredTrace() {
        if (!isTraceKnown) {
            trace = RequiredTrace.of(scan.where(), readings());
            isTraceKnown = true;
        }
        return trace;
    }

    /** Returns how the values of a comparison are counted; null if that needs each event. */
    synchronized ComparedValues comparedValues() {
        if (!areComparedKnown) {
            comparedValues = shape.askedParts().isEmpty() ? ComparedValues.of(directory, shape) : null;
            areComparedKnown = true;
        }
        return comparedValues;
    }

    /**
     * Reads a complete event, after the rows: few of those that could be among the newest or oldest are.
     *
     * @param coverage receives what is damaged
     * @return null if it is damaged
     */
    Event event(Directory.Group group, int line, CoverageBuilder coverage) {
        try {
            return event(recent.line(group, line, () -> read(group)), new JsonLine(shape));
        } catch (IOException e) {
            coverage.failed(path.toString(), e.getMessage());
            return null;
        }
    }

    private GroupReader read(Directory.Group group) throws IOException {
        try (SegmentFile file = open()) {
            GroupReader reader = new GroupReader(file, group, new CoverageBuilder(Control.NONE));
            reader.loadAll();
            return reader;
        }
    }

    /** Reads the event of a line. */
    Event event(byte[] line, JsonLine json) throws SegmentException {
        try {
            return json.read(line, 0, line.length, 0, true);
        } catch (UnreadableLineException e) {
            throw new SegmentException(path + " has a line that is no event: " + e.getMessage(), e);
        }
    }
}
