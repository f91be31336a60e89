package dev.graphema.segments;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.event.Attribute;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.lines.form.JsonLine;
import dev.graphema.lines.json.LineFilter;
import dev.graphema.query.partial.CellCounts;
import dev.graphema.query.partial.SideCounts;
import dev.graphema.query.partial.ValueCounts;
import dev.graphema.query.row.ProjectedValues;
import dev.graphema.query.row.Projection;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.Rows;
import dev.graphema.query.source.Scan;
import dev.graphema.segments.column.PackedNumbers;
import dev.graphema.segments.file.Directory;
import dev.graphema.segments.file.SegmentException;
import dev.graphema.segments.file.SegmentFile;
import dev.graphema.trace.TraceId;
import java.io.IOException;
import java.util.BitSet;
import java.util.Iterator;
import java.util.List;
import java.util.function.Supplier;
import java.util.stream.Stream;

/** The lines with a shape of some groups, one after the other; it is also the row of the current one. For one thread. */
final class SegmentRows implements Rows {
    private final OpenedSegment segment;
    private final SegmentFile file;
    private final Iterator<PlacedGroup> groups;
    private final Scan scan;
    private final ShapeReadings readings;
    private final CoverageBuilder coverage;
    private final JsonLine json;
    private final LineFilter filter;
    private final RequiredTexts required;

    /** By index in the projection: the index in the readings. */
    private final int[] places;

    private GroupReader group;
    private GroupVectors vectors;
    private PhraseTest phrase;
    private RowSelection.Selected selected;
    private int line;
    private PlacedGroup placed;

    /** The complete event of the current line; null until it is needed. */
    private Event event;

    /** The values of the current line for names that are not simply those of the log. */
    private final ProjectedValues derived;

    private int derivedLine;

    /** The index of the trace in the projection; -1 for none. */
    private final int tracePlace;

    /** By index in the projection: whether the value follows from the event. */
    private final boolean[] isDerived;

    // Of the current group, by line, and by index in the projection.
    private long[] times;

    /** The times if few of them are needed; else null. */
    private PackedNumbers placedTimes;

    /** Whether all lines are examined one by one, so that their times and values are read with a group. */
    private boolean looksAtLines = true;

    private long[] weights;
    private NameVector traces;
    private final NameVector[] values;

    /**
     * A group of a file.
     *
     * @param linesBefore the number of lines of the file before it
     */
    record PlacedGroup(Directory.Group group, long linesBefore) {}

    SegmentRows(OpenedSegment segment, List<PlacedGroup> groups, CoverageBuilder coverage) throws IOException {
        this.segment = segment;
        this.file = segment.open();
        this.groups = groups.iterator();
        this.scan = segment.scan();
        this.readings = segment.readings();
        this.json = new JsonLine(segment.shape());
        // A part of a text need not be in the line unchanged.
        this.filter = segment.shape().askedParts().isEmpty() ? LineFilter.of(scan.where()) : LineFilter.ALL;
        this.required = new RequiredTexts(filter == LineFilter.ALL ? Condition.EVERYTHING : scan.where(), readings);
        this.coverage = coverage;
        this.places = scan.projection().listed().stream()
                .mapToInt(readings.names()::indexOf)
                .toArray();
        this.values = new NameVector[places.length];
        this.tracePlace = scan.projection().isAll() ? -1 : scan.projection().place(Attribute.TRACE);
        this.derived = scan.projection().isAll() ? null : new ProjectedValues(scan.projection(), this::lineTime);
        this.isDerived = new boolean[places.length];
        for (int i = 0; i < places.length; i++) {
            isDerived[i] = derived.isDerived(i);
        }
    }

    /** Returns the names whose values a scan needs. */
    static List<Name> names(Scan scan) {
        return Stream.concat(scan.where().names().stream(), scan.projection().listed().stream())
                .distinct()
                .toList();
    }

    @Override
    public boolean advance() throws IOException {
        while (true) {
            while (group == null) {
                if (!groups.hasNext() || coverage.isStopped()) {
                    return false;
                }
                next(groups.next());
            }
            try {
                if (nextLine()) {
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

    /** Counts all rows, those with the same values of a group together where possible. */
    void countInto(ValueCounts counts) throws IOException {
        looksAtLines = false;
        LevelCounts byLevel = LevelCounts.of(scan, readings, counts);
        eachGroup(next -> byLevel != null && byLevel.add(next, file, coverage), () -> countGroup(counts));
    }

    /** Counts the values of all rows for a comparison, those of a group together where possible. */
    void compareInto(SideCounts sides, ComparedValues values) throws IOException {
        looksAtLines = false;
        eachGroup(next -> false, () -> {
            if (selected.unsure().isEmpty()) {
                BitSet rest = values.add(selected.lines(), group, weights, sides);
                coverage.events(selected.lines().cardinality() - rest.cardinality());
                selected = new RowSelection.Selected(rest, new BitSet());
            }
            addRows(sides);
        });
    }

    /** Counts all rows by time and source. */
    void mapInto(CellCounts cells) throws IOException {
        eachGroup(next -> false, () -> {
            RowCodes codes = rowCodes(cells);
            while (group != null) {
                if (nextLine()) {
                    coverage.event();
                    boolean isCounted = codes != null && event == null && codes.add(line, lineTime(), weight());
                    if (!isCounted) {
                        cells.add(this, 0); // the order does not matter
                    }
                }
            }
        });
    }

    /** Returns null if values must be looked up one by one. */
    private RowCodes rowCodes(CellCounts cells) {
        int[] counted = cells.places();
        NameVector[] sources = new NameVector[counted.length];
        for (int i = 0; i < counted.length; i++) {
            if (isDerived[counted[i]]) {
                return null;
            }
            sources[i] = values[counted[i]];
        }
        return isDerived[cells.levelPlace()] ? null : RowCodes.of(sources, values[cells.levelPlace()], cells);
    }

    private void addRows(SideCounts sides) throws IOException {
        if (!selected.lines().isEmpty()) {
            loadRows();
        }
        while (group != null) {
            if (nextLine()) {
                coverage.event();
                sides.add(this, 0); // the order does not matter
            }
        }
    }

    /** Counts a group without its lines; false if that is not possible. */
    private interface Shortcut {
        boolean counts(Directory.Group group) throws IOException;
    }

    /** Counts the current group. */
    private interface Counting {
        void count() throws IOException;
    }

    private void eachGroup(Shortcut shortcut, Counting counting) throws IOException {
        while (groups.hasNext() && !coverage.isStopped()) {
            PlacedGroup next = groups.next();
            if (shortcut.counts(next.group())) {
                continue;
            }
            next(next);
            try {
                if (group != null) {
                    counting.count();
                }
            } catch (SegmentException e) {
                damaged(e);
            } catch (IndexOutOfBoundsException e) {
                damaged(group.inconsistent(e));
            }
        }
    }

    private void countGroup(ValueCounts counts) throws IOException {
        CodeCounts byCode = codeCounts(counts);
        boolean isPlain = byCode != null && selected.unsure().isEmpty() && !hasWeight();
        boolean isCounted =
                isPlain && selected.lines().cardinality() == group.lines() && byCode.addGroup(group.lines());
        if (!isCounted) {
            loadRows();
        }
        if (isCounted || isPlain && byCode.addAll(selected.lines(), group.lines())) {
            coverage.events(selected.lines().cardinality());
            byCode.finish();
            group = null;
            return;
        }
        try {
            while (group != null) {
                if (nextLine()) {
                    coverage.event();
                    count(counts, byCode);
                }
            }
        } finally {
            if (byCode != null) {
                byCode.finish();
            }
        }
    }

    /** Reads what the rows show, if not all of them were to be examined. */
    private void loadRows() throws IOException {
        if (placedTimes == null) {
            times = vectors.times();
        }
        boolean areFew = vectors.areFew(selected.lines().cardinality());
        for (NameVector each : values) {
            each.load(areFew);
        }
    }

    private void count(ValueCounts counts, CodeCounts byCode) {
        int cell = byCode == null || event != null ? -1 : byCode.cell(line);
        if (cell < 0) {
            counts.add(this, 0); // the order does not matter
        } else {
            long weight = weight();
            byCode.add(cell, line, weight, weight == 1 ? null : trace());
        }
    }

    /** Returns null if values must be counted one by one. */
    private CodeCounts codeCounts(ValueCounts counts) {
        int[] counted = counts.places();
        NameVector[] vectors = new NameVector[counted.length];
        for (int i = 0; i < counted.length; i++) {
            if (isDerived[counted[i]]) {
                return null;
            }
            vectors[i] = values[counted[i]];
        }
        int measured = counts.measured();
        if (measured >= 0 && isDerived[measured]) {
            return null;
        }
        return CodeCounts.of(
                vectors,
                measured < 0 ? null : values[measured],
                counts,
                selected.lines().cardinality());
    }

    private void next(PlacedGroup next) throws IOException {
        placed = next;
        line = -1;
        try {
            if (segment.isExcluded(next.group(), file, coverage)) {
                coverage.excluded(next.group().rows());
                group = null;
                return;
            }
            group = new GroupReader(file, next.group(), coverage);
            vectors = new GroupVectors(group, readings);
            boolean searchesText = Projection.of(scan.where()).isAll() && filter != LineFilter.ALL;
            phrase = searchesText ? PhraseTest.of(scan.where(), group, file.contents()) : null;
            if (phrase != null && phrase.excludesAll() || required.isAnyMissing(group, readings)) {
                coverage.excluded(next.group().rows());
                group = null;
                return;
            }
            selected = RowSelection.of(scan.where(), scan.during(), vectors);
            int count = selected.lines().cardinality();
            coverage.excluded(next.group().rows() - count);
            if (count == 0) {
                group = null;
            } else {
                load(count);
            }
        } catch (SegmentException e) {
            damaged(e);
        } catch (IndexOutOfBoundsException e) {
            damaged(group.inconsistent(e));
        }
    }

    /** Reads everything that the rows show, so that damage is known before the first one. */
    private void load(int count) throws IOException {
        boolean areFew = vectors.areFew(count);
        if (!areFew && looksAtLines) {
            group.followAll();
        }
        derivedLine = -1;
        placedTimes = areFew && group.hasOnlyShapes() ? group.packedTimes() : null;
        times = placedTimes == null && looksAtLines ? vectors.times() : null;
        weights = vectors.weights();
        traces = hasWeight() ? vectors.traces() : null;
        for (int i = 0; i < places.length; i++) {
            values[i] = looksAtLines ? vectors.vector(places[i], areFew) : vectors.unloaded(places[i]);
        }
    }

    private boolean hasWeight() {
        BitSet lines = selected.lines();
        for (int i = lines.nextSetBit(0); i >= 0 && weights.length > 0; i = lines.nextSetBit(i + 1)) {
            if (weights[i] != 1) {
                return true;
            }
        }
        return false;
    }

    /** The rest of the group cannot be read. */
    private void damaged(SegmentException problem) {
        coverage.failed(file.path().toString(), problem.getMessage());
        group = null;
    }

    /** Moves to the next selected line; at the end of the group, there is no group any more. */
    private boolean nextLine() throws IOException {
        line = selected.lines().nextSetBit(line + 1);
        event = null;
        if (line < 0) {
            group = null;
            return false;
        }
        if (!selected.unsure().get(line)) {
            return true;
        }
        event = matching();
        if (event == null) {
            coverage.excluded(1);
        }
        return event != null;
    }

    /** Returns the event of the current line if it matches the condition; else null. */
    private Event matching() throws IOException {
        group.moveTo(line);
        if (phrase != null && phrase.excludes(group.shape(line))) {
            return null;
        }
        byte[] bytes = group.line(group.shape(line));
        if (phrase != null && !filter.mayMatch(bytes, 0, bytes.length)) {
            return null;
        }
        Event read = segment.event(bytes, json);
        return scan.where().matches(read) ? read : null;
    }

    private byte[] bytes() throws IOException {
        group.moveTo(line);
        return group.line(group.shape(line));
    }

    @Override
    public long time() {
        return event == null ? lineTime() : event.epochNanos();
    }

    private long lineTime() {
        return placedTimes == null ? times[line] : placedTimes.get(line);
    }

    @Override
    public long weight() {
        return event != null ? event.weight() : weights.length == 0 ? 1 : weights[line];
    }

    @Override
    public TraceId trace() {
        if (event != null) {
            return event.trace();
        }
        NameVector vector = tracePlace >= 0 ? values[tracePlace] : weight() == 1 ? null : traces;
        return vector != null && vector.value(line) instanceof TraceId trace ? trace : null;
    }

    @Override
    public Object value(int index) {
        if (event != null) {
            return scan.projection().value(index, event);
        }
        if (isDerived[index]) {
            derive();
            return event == null ? derived.value(index) : scan.projection().value(index, event);
        }
        Object value = values[index].value(line);
        return value == NameVector.NOT_HERE ? scan.projection().value(index, complete()) : value;
    }

    /** Sets all values of the current line, or reads the complete event if only that has them. */
    private void derive() {
        if (derivedLine == line) {
            return;
        }
        derivedLine = line;
        derived.clear();
        derived.weight(weight());
        derived.trace(trace());
        for (int i = 0; i < values.length; i++) {
            Object value = values[i].value(line);
            derived.array()[i] = value;
            if (value == NameVector.NOT_HERE
                    || !GroupVectors.set(derived, scan.projection().listed().get(i), value)) {
                complete();
                return;
            }
        }
    }

    @Override
    public Event event() {
        return event == null ? complete() : event;
    }

    private Event complete() {
        try {
            event = segment.event(bytes(), json);
        } catch (IOException e) {
            coverage.failed(file.path().toString(), e.getMessage());
            event = new Draft().time(lineTime()).finish(); // what is known of it
        }
        return event;
    }

    @Override
    public long position() {
        return placed.linesBefore() + line + 1;
    }

    @Override
    public Supplier<Event> keep() {
        if (event != null) {
            Event kept = event;
            return () -> kept;
        }
        // Refers to the place only, and not to the values of the group.
        return kept(segment, placed.group(), line, coverage.whole());
    }

    private static Supplier<Event> kept(
            OpenedSegment segment, Directory.Group group, int line, CoverageBuilder coverage) {
        return () -> segment.event(group, line, coverage);
    }

    @Override
    public void close() throws IOException {
        file.close();
    }
}
