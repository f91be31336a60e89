package dev.graphema.segments;

import dev.graphema.condition.Name;
import dev.graphema.event.Attribute;
import dev.graphema.format.JsonMember;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.segments.file.Directory;
import dev.graphema.segments.line.Column;
import dev.graphema.segments.line.Kind;
import dev.graphema.segments.line.Shape;
import java.util.List;

/** Where the lines of each shape of a segment have the values of some names. Safe to share between threads. */
final class ShapeReadings {
    static final Name TRACE = new Name(Attribute.TRACE, null);

    private final Directory directory;
    private final LineShape lineShape;
    private final List<Name> names;
    private final Reading[] byShape;
    private ShapeReadings ofTraces;

    /**
     * How the lines of a shape are read.
     *
     * @param values where the values of the names are
     * @param weight the column of the weight; -1 for none
     * @param trace the column of the trace if there is a weight; -1 for none
     * @param isComplete whether only complete events have the values
     */
    record Reading(NamedValue[] values, int weight, int trace, boolean isComplete) {}

    ShapeReadings(Directory directory, List<Name> names, LineShape lineShape) {
        this.directory = directory;
        this.lineShape = lineShape;
        this.names = List.copyOf(names);
        this.byShape = directory.shapes().stream()
                .map(shape -> reading(shape, directory.columns()))
                .toArray(Reading[]::new);
    }

    /** Returns the readings of traces. */
    synchronized ShapeReadings ofTraces() {
        if (ofTraces == null) {
            ofTraces = new ShapeReadings(directory, List.of(TRACE), lineShape);
        }
        return ofTraces;
    }

    private Reading reading(Shape shape, List<Column> columns) {
        int weight = -1;
        int trace = -1;
        for (int column : shape.columns()) {
            String path = columns.get(column).path();
            weight = path.equals(JsonMember.WEIGHT.text()) ? column : weight;
            trace = path.equals(JsonMember.TRACE.text()) ? column : trace;
        }
        // Of a sampled event, the trace is always asked for.
        boolean isComplete = weight >= 0 && columns.get(weight).kind() != Kind.INTEGER
                || weight >= 0 && trace >= 0 && columns.get(trace).kind() != Kind.ID;
        NamedValue[] values = new NamedValue[names.size()];
        for (int i = 0; i < values.length; i++) {
            Name name = names.get(i);
            values[i] = NamedValue.of(name, shape, columns);
            // A name that is no field can be that of a part of a text, which is computed from the event.
            boolean isComputed = values[i].place() == NamedValue.Place.NOWHERE
                    && name.attribute() == null
                    && lineShape.isComputed(name.field());
            values[i] = isComputed ? NamedValue.EVENT : values[i];
        }
        return new Reading(values, weight, weight < 0 ? -1 : trace, isComplete);
    }

    LineShape lineShape() {
        return lineShape;
    }

    List<Name> names() {
        return names;
    }

    Reading of(int shape) {
        return byShape[shape];
    }

    /** Returns whether a shape has the value of a name at a place. */
    boolean isAnywhere(int index, NamedValue.Place place) {
        for (Reading each : byShape) {
            if (each.values()[index].place() == place) {
                return true;
            }
        }
        return false;
    }

    /** Returns the columns of a shape. */
    int[] columns(int shape) {
        return directory.shapes().get(shape).columns();
    }

    int shapes() {
        return byShape.length;
    }

    /** Returns whether a line of a group has a weight. */
    boolean hasWeights(Directory.Group group) {
        for (Reading each : byShape) {
            if (each.weight() >= 0 && group.count(each.weight()) > 0) {
                return true;
            }
        }
        return false;
    }
}
