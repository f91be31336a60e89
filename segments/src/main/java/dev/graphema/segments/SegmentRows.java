package dev.graphema.segments;

import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.lines.form.JsonLine;
import dev.graphema.lines.form.UnreadableLineException;
import dev.graphema.lines.json.LineFilter;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.row.ProjectedValues;
import dev.graphema.query.row.Projection;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.Rows;
import dev.graphema.query.source.Scan;
import dev.graphema.segments.file.Directory;
import dev.graphema.segments.file.SegmentException;
import dev.graphema.segments.file.SegmentFile;
import dev.graphema.segments.line.Shapes;
import dev.graphema.trace.TraceId;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Iterator;
import java.util.List;
import java.util.function.Supplier;

/** The lines with a shape of some groups, one after the other; it is also the row of the current one. For one thread. */
final class SegmentRows implements Rows {
    private final SegmentFile file;
    private final Iterator<PlacedGroup> groups;
    private final Scan scan;
    private final Projection needed;
    private final CoverageBuilder coverage;
    private final LineShape lineShape;
    private final JsonLine json;
    private final LineFilter filter;

    private GroupReader group;
    private GroupValues groupValues;
    private PhraseTest phrase;
    private int line;

    /** The shape of the current line, until the next one is read. */
    private int current = Shapes.NONE;

    private long linesBefore;

    // The current row: values, or a complete event.
    private ProjectedValues values;
    private Event event;

    /**
     * A group of a file.
     *
     * @param linesBefore the number of lines of the file before it
     */
    record PlacedGroup(Directory.Group group, long linesBefore) {}

    SegmentRows(Path path, List<PlacedGroup> groups, Scan scan, LineShape lineShape, CoverageBuilder coverage)
            throws IOException {
        this.file = SegmentFile.open(path);
        this.groups = groups.iterator();
        this.scan = scan;
        this.lineShape = lineShape;
        this.json = new JsonLine(lineShape);
        // A part of a text need not be in the line as it is.
        this.filter = lineShape.askedParts().isEmpty() ? LineFilter.of(scan.where()) : LineFilter.ALL;
        this.coverage = coverage;
        Projection asked = Projection.of(scan.where());
        boolean isAllNeeded =
                asked.isAll() || scan.projection().isAll() && scan.where().isEverything();
        this.needed = isAllNeeded
                ? null
                : scan.projection().isAll() ? asked : scan.projection().and(asked);
    }

    @Override
    public boolean advance() throws IOException {
        while (true) {
            while (group == null || line >= group.lines()) {
                if (!groups.hasNext() || coverage.isStopped()) {
                    return false;
                }
                next(groups.next());
            }
            try {
                if (read()) {
                    coverage.event();
                    return true;
                }
            } catch (SegmentException e) {
                damaged(e);
            } catch (IndexOutOfBoundsException e) {
                damaged(group.inconsistent(e));
            }
        }
    }

    private void next(PlacedGroup next) throws IOException {
        linesBefore = next.linesBefore();
        line = 0;
        current = Shapes.NONE;
        try {
            group = new GroupReader(file, next.group(), coverage);
            phrase = needed == null && filter != LineFilter.ALL
                    ? PhraseTest.of(scan.where(), group, file.contents())
                    : null;
            if (phrase != null && phrase.excludesAll()) {
                coverage.excluded(next.group().rows());
                group = null;
                return;
            }
            groupValues =
                    needed == null ? null : new GroupValues(group, file.contents(), scan.where(), needed, lineShape);
        } catch (SegmentException e) {
            damaged(e);
        }
    }

    /** The rest of the group cannot be read. */
    private void damaged(SegmentException problem) {
        coverage.failed(file.path().toString(), problem.getMessage());
        group = null;
    }

    /** Reads the next line; returns whether it has a shape and is selected. */
    private boolean read() throws IOException {
        if (current != Shapes.NONE) {
            group.pass(current);
        }
        int shape = group.shape(line++);
        current = shape;
        if (shape == Shapes.NONE) {
            return false; // it is read with the other lines of its kind
        }
        values = null;
        event = null;
        boolean isSelected;
        if (groupValues == null) {
            event = phrase != null && phrase.excludes(shape) ? null : filtered(shape);
            isSelected = event != null
                    && scan.during().contains(event.epochNanos())
                    && scan.where().matches(event);
        } else {
            isSelected = isInWindow(shape) && !groupValues.isExcluded(shape) && isSelected(shape);
        }
        if (isSelected && event == null && scan.projection().isAll()) {
            event = whole(shape);
            values = null;
        }
        if (!isSelected) {
            coverage.excluded(1);
        }
        return isSelected;
    }

    /** Returns the event; null if the filter excludes it. */
    private Event filtered(int shape) throws IOException {
        byte[] bytes = group.line(shape);
        return filter.mayMatch(bytes, 0, bytes.length) ? event(bytes) : null;
    }

    private boolean isInWindow(int shape) throws IOException {
        return scan.during().isAlways() || scan.during().contains(groupValues.time(shape));
    }

    private boolean isSelected(int shape) throws IOException {
        values = groupValues.read(shape);
        if (values == null) {
            event = whole(shape);
        }
        Condition where = scan.where();
        return where.isEverything() || where.matches(values == null ? event : values.values());
    }

    private Event whole(int shape) throws IOException {
        return event(group.line(shape));
    }

    private Event event(byte[] bytes) throws SegmentException {
        try {
            return json.read(bytes, 0, bytes.length, 0, true);
        } catch (UnreadableLineException e) {
            throw new SegmentException(file.path() + " has a line that is no event: " + e.getMessage(), e);
        }
    }

    @Override
    public long time() {
        return event == null ? values.values().epochNanos() : event.epochNanos();
    }

    @Override
    public long weight() {
        return event == null ? values.weight() : event.weight();
    }

    @Override
    public TraceId trace() {
        return event == null ? values.trace() : event.trace();
    }

    @Override
    public Object value(int index) {
        return event == null ? values.value(index) : scan.projection().value(index, event);
    }

    @Override
    public Event event() {
        return event == null ? complete() : event;
    }

    private Event complete() {
        try {
            event = whole(current);
            return event;
        } catch (IOException e) {
            coverage.failed(file.path().toString(), e.getMessage());
            return values.event();
        }
    }

    @Override
    public long position() {
        return linesBefore + line;
    }

    @Override
    public Supplier<Event> keep() {
        if (event != null) {
            Event kept = event;
            return () -> kept;
        }
        try {
            byte[] bytes = group.line(current);
            return () -> read(bytes);
        } catch (IOException e) {
            coverage.failed(file.path().toString(), e.getMessage());
            return () -> null;
        }
    }

    private Event read(byte[] bytes) {
        try {
            return event(bytes);
        } catch (SegmentException e) {
            coverage.whole().failed(file.path().toString(), e.getMessage());
            return null;
        }
    }

    @Override
    public void close() throws IOException {
        file.close();
    }
}
