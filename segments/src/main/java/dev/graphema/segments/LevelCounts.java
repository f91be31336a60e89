package dev.graphema.segments;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.event.Attribute;
import dev.graphema.query.Window;
import dev.graphema.query.partial.ValueCounts;
import dev.graphema.query.row.ProjectedValues;
import dev.graphema.query.row.Projection;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.Scan;
import dev.graphema.segments.column.PairCounts;
import dev.graphema.segments.file.Directory;
import dev.graphema.segments.file.OptionalBlock;
import dev.graphema.segments.file.SegmentFile;
import dev.graphema.segments.line.Column;
import dev.graphema.segments.line.Kind;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/**
 * Counts the lines of groups by level and service without looking at them: they were counted when the group was written. For one
 * thread.
 */
final class LevelCounts {
    private static final List<Name> NAMES = List.of(new Name(Attribute.LEVEL, null), new Name(Attribute.SERVICE, null));

    private final Condition where;
    private final Window during;
    private final ValueCounts counts;
    private final ProjectedValues values = new ProjectedValues(Projection.of(NAMES), () -> 0);

    /** By counted name: its index in the names. */
    private final int[] places;

    private LevelCounts(Scan scan, ValueCounts counts, int[] places) {
        this.where = scan.where();
        this.during = scan.during();
        this.counts = counts;
        this.places = places;
    }

    /** Returns null if the question needs other values, or lines may have these elsewhere than in their columns. */
    static LevelCounts of(Scan scan, ShapeReadings readings, ValueCounts counts) {
        boolean areKnown = readings.names().stream()
                .allMatch(name -> NAMES.contains(name)
                        && !readings.isAnywhere(readings.names().indexOf(name), NamedValue.Place.EVENT));
        if (!areKnown || counts.measured() >= 0 || Projection.of(scan.where()).isAll()) {
            return null;
        }
        int[] places = counts.places();
        for (int i = 0; i < places.length; i++) {
            places[i] = NAMES.indexOf(scan.projection().listed().get(places[i]));
        }
        return new LevelCounts(scan, counts, places);
    }

    /** Counts the lines of a group; false if that is not possible without looking at them. */
    boolean add(Directory.Group group, SegmentFile file, CoverageBuilder coverage) throws IOException {
        boolean isInWindow =
                during.isAlways() || during.contains(group.firstTime()) && during.contains(group.lastTime());
        if (!isInWindow) {
            return false;
        }
        List<PairCounts.Pair> pairs = OptionalBlock.read(file, group.counts(), coverage, PairCounts::read);
        if (pairs == null) {
            return false;
        }
        List<Object[]> texts = new ArrayList<>();
        for (PairCounts.Pair pair : pairs) {
            texts.add(new Object[] {text(0, pair.first()), pair.second() == null ? null : text(1, pair.second())});
            if (texts.get(texts.size() - 1)[0] == NameVector.NOT_HERE
                    || texts.get(texts.size() - 1)[1] == NameVector.NOT_HERE) {
                return false;
            }
        }
        for (int i = 0; i < texts.size(); i++) {
            add(texts.get(i), pairs.get(i), coverage);
        }
        return true;
    }

    private static Object text(int index, byte[] bytes) {
        return ColumnValue.ofText(new Column(NAMES.get(index).toString(), Kind.TEXT), bytes, 0, bytes.length);
    }

    private void add(Object[] pair, PairCounts.Pair counted, CoverageBuilder coverage) {
        values.clear();
        System.arraycopy(pair, 0, values.array(), 0, pair.length);
        GroupVectors.set(values, NAMES.get(0), pair[0]);
        if (!where.matches(values.values())) {
            coverage.excluded(counted.count());
            return;
        }
        coverage.events(counted.count());
        List<Object> combination = new ArrayList<>();
        for (int place : places) {
            combination.add(pair[place]);
        }
        counts.cell(combination).add(counted.count(), counted.weight());
    }
}
