package dev.graphema.segments;

import dev.graphema.condition.Name;
import dev.graphema.event.Attribute;
import dev.graphema.event.Level;
import dev.graphema.query.row.ProjectedValues;
import dev.graphema.segments.line.Kind;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.io.IOException;
import java.util.Arrays;
import java.util.BitSet;

/** The values of some names in the lines of a group, each read when it is first needed. For one thread. */
final class GroupVectors {
    /** If fewer lines than one in this number are read, their values are read one by one. */
    private static final int FEW = 8;

    private final GroupReader group;
    private final ShapeReadings readings;
    private final NameVector[] vectors;
    private long[] times;

    /** By line, or empty if there are none. */
    private long[] weights;

    private NameVector traces;

    GroupVectors(GroupReader group, ShapeReadings readings) {
        this.group = group;
        this.readings = readings;
        this.vectors = new NameVector[readings.names().size()];
    }

    /** Returns whether this number of lines is few of the group. */
    boolean areFew(int count) {
        return areFew(count, group.lines());
    }

    /** Returns whether this number of lines is few of these. */
    static boolean areFew(int count, int lines) {
        return count * FEW < lines;
    }

    /**
     * Returns the values of a name.
     *
     * @param index its index in the readings
     * @param isForFew whether they are needed of few lines
     */
    NameVector vector(int index, boolean isForFew) throws IOException {
        return unloaded(index).load(isForFew);
    }

    /** As above, for a name, without the codes of the lines. */
    NameVector unloaded(Name name) throws IOException {
        return unloaded(readings.names().indexOf(name));
    }

    /** As above, for the index of a name. */
    NameVector unloaded(int index) throws IOException {
        if (vectors[index] == null) {
            vectors[index] = NameVector.of(group, readings, index);
        }
        return vectors[index];
    }

    int lines() {
        return group.lines();
    }

    /** Returns the lines with a shape. */
    BitSet rows() throws IOException {
        BitSet rows = new BitSet(group.lines());
        if (group.hasOnlyShapes()) {
            rows.set(0, group.lines());
            return rows;
        }
        for (int line = 0; line < group.lines(); line++) {
            if (group.shape(line) >= 0) {
                rows.set(line);
            }
        }
        return rows;
    }

    /** Returns the lines that must be read completely for every question. */
    BitSet incomplete() throws IOException {
        BitSet incomplete = new BitSet();
        if (!readings.hasWeights(group.place()) || areWeightsUsual()) {
            return incomplete;
        }
        long[] all = weights();
        for (int line = 0; line < all.length; line++) {
            if (all[line] < 1) {
                incomplete.set(line);
            }
        }
        return incomplete;
    }

    /** Returns whether all weights are those of a sample, which is seen without looking at the lines. */
    private boolean areWeightsUsual() throws IOException {
        int column = -1;
        for (int shape = 0; shape < readings.shapes(); shape++) {
            ShapeReadings.Reading reading = readings.of(shape);
            if (reading.isComplete()) {
                return false;
            }
            column = Math.max(column, reading.weight()); // all others are complete
        }
        for (long weight : group.numbers(column)) {
            if (weight < 1) {
                return false;
            }
        }
        return true;
    }

    /** Returns the times by line. */
    long[] times() throws IOException {
        if (times == null) {
            times = group.hasOnlyShapes() ? group.times() : spread(group.times());
        }
        return times;
    }

    /** Returns the numbers of lines with a shape by line. */
    private long[] spread(long[] ofRows) throws IOException {
        long[] byLine = new long[group.lines()];
        int next = 0;
        for (int line = 0; line < byLine.length; line++) {
            byLine[line] = group.shape(line) < 0 ? 0 : ofRows[next++];
        }
        return byLine;
    }

    /** Returns the weights by line, 0 for one that is not a usual weight; an empty array if no line has one. */
    long[] weights() throws IOException {
        if (weights == null) {
            weights = readings.hasWeights(group.place()) ? readWeights() : new long[0];
        }
        return weights;
    }

    private long[] readWeights() throws IOException {
        long[] read = new long[group.lines()];
        Arrays.fill(read, 1);
        boolean[] isWhole = new boolean[readings.shapes()];
        boolean[] isNone = new boolean[readings.shapes()];
        long[] numbers = null;
        for (int shape = 0; shape < isNone.length; shape++) {
            int column = readings.of(shape).weight();
            isNone[shape] = column < 0;
            isWhole[shape] = column >= 0 && group.column(column).kind() == Kind.INTEGER;
            numbers = isWhole[shape] ? group.numbers(column) : numbers;
        }
        int next = 0;
        for (int line = 0; line < read.length; line++) {
            int shape = group.shape(line);
            if (shape >= 0 && !isNone[shape]) {
                long weight = isWhole[shape] ? numbers[next++] : 0;
                read[line] = readings.of(shape).isComplete() ? 0 : weight;
            }
        }
        return read;
    }

    /** Returns the traces of lines with a weight. */
    NameVector traces() throws IOException {
        if (traces == null) {
            traces = NameVector.of(group, readings.ofTraces(), 0).load(false);
        }
        return traces;
    }

    /** Sets what an event has apart from its values; false if the value is not a usual one. */
    static boolean set(ProjectedValues projected, Name name, Object value) {
        if (name.attribute() == Attribute.LEVEL) {
            Level level = value == null ? null : Level.of((String) value);
            projected.level(level);
            return level != null && level.text().equals(value);
        }
        if (name.attribute() == Attribute.TRACE && value != null) {
            projected.trace(value instanceof TraceId trace ? trace : null);
            return value instanceof TraceId;
        }
        boolean isSpan = name.attribute() == Attribute.SPAN || name.attribute() == Attribute.PARENT;
        return !isSpan || value == null || value instanceof SpanId;
    }
}
