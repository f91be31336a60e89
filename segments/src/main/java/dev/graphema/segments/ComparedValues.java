package dev.graphema.segments;

import dev.graphema.condition.Name;
import dev.graphema.event.Attribute;
import dev.graphema.format.JsonMember;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.partial.SideCounts;
import dev.graphema.segments.column.PackedNumbers;
import dev.graphema.segments.file.Directory;
import dev.graphema.segments.line.Column;
import dev.graphema.segments.line.Shape;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Stream;

/** Counts the values of all names for a comparison by their codes, so that few lines become events. Safe to share between threads. */
final class ComparedValues {
    /** Of more names, and of more names in all shapes together, each line is read. */
    private static final int MOST_NAMES = 500;

    private static final int MOST_READINGS = 20_000;

    /** A number of different numbers that is too large for a comparison. */
    private static final int MOST_NUMBERS = 1000;

    /** How many numbers are remembered with their sums, as a power of two. */
    private static final int REMEMBERED = 1 << 10;

    private static final String IN_FIELDS = JsonMember.FIELDS.text() + Column.SEPARATOR;
    private static final Name MESSAGE = new Name(Attribute.MESSAGE, null);

    private final ShapeReadings readings;

    /** By shape: whether its lines have values that only complete events show; empty if none has. */
    private final boolean[] isDoubtful;

    private ComparedValues(ShapeReadings readings, boolean[] isDoubtful) {
        this.readings = readings;
        boolean isAny = false;
        for (boolean each : isDoubtful) {
            isAny |= each;
        }
        this.isDoubtful = isAny ? isDoubtful : new boolean[0];
    }

    /** Returns null if there are too many names. */
    static ComparedValues of(Directory directory, LineShape lineShape) {
        Set<Name> names = new LinkedHashSet<>();
        for (Attribute each : List.of(
                Attribute.LEVEL,
                Attribute.SERVICE,
                Attribute.INSTANCE,
                Attribute.LOGGER,
                Attribute.MESSAGE,
                Attribute.FAILURE_TYPE)) {
            names.add(new Name(each, null));
        }
        boolean[] isDoubtful = new boolean[directory.shapes().size()];
        for (int i = 0; i < isDoubtful.length && names.size() <= MOST_NAMES; i++) {
            List<String> paths = paths(directory.shapes().get(i), directory.columns());
            for (String path : paths) {
                isDoubtful[i] |= path.indexOf('\\') >= 0 || !path.startsWith(IN_FIELDS) && !isMember(path);
                if (path.startsWith(IN_FIELDS)) {
                    names.add(new Name(null, path.substring(IN_FIELDS.length()).replace(Column.SEPARATOR, '.')));
                }
            }
        }
        return names.size() > MOST_NAMES || names.size() * isDoubtful.length > MOST_READINGS
                ? null
                : new ComparedValues(new ShapeReadings(directory, List.copyOf(names), lineShape), isDoubtful);
    }

    private static List<String> paths(Shape shape, List<Column> columns) {
        List<String> paths = new ArrayList<>(shape.constants().keySet());
        for (int column : shape.columns()) {
            paths.add(columns.get(column).path());
        }
        return paths;
    }

    private static boolean isMember(String path) {
        return Stream.of(JsonMember.values()).anyMatch(member -> member.is(path));
    }

    /**
     * Counts lines.
     *
     * @param weights the weights by line; empty if all are 1
     * @return the lines that are not counted: they must be read completely
     */
    BitSet add(BitSet lines, GroupReader group, long[] weights, SideCounts sides) throws IOException {
        GroupVectors vectors = new GroupVectors(group, readings);
        BitSet complete = doubtful(lines, group);
        CountedLines counted = new CountedLines(lines, complete, group.lines(), weights);
        List<Tally> tallies = tallies(vectors, counted, sides);
        if (tallies.stream().anyMatch(Tally::isIncomplete)) {
            for (Tally tally : tallies) {
                if (tally.isIncomplete()) {
                    addIncomplete(lines, tally.vector, complete);
                }
            }
            counted = new CountedLines(lines, complete, group.lines(), weights);
            tallies = tallies(vectors, counted, sides);
        }
        // Nothing is added before all values are read.
        sides.addEvents(counted.weight(), counted.count());
        tallies.forEach(tally -> tally.addTo(sides));
        return complete;
    }

    private List<Tally> tallies(GroupVectors vectors, CountedLines lines, SideCounts sides) throws IOException {
        List<Tally> tallies = new ArrayList<>();
        boolean areFew = vectors.areFew(lines.count());
        for (int i = 0; i < readings.names().size(); i++) {
            Name name = readings.names().get(i);
            NameVector vector = sides.compares(text(name)) ? vectors.unloaded(i) : null;
            if (vector == null || !vector.isAnywhere()) {
                continue;
            }
            PackedNumbers packed = lines.areMost() ? vector.packed() : null;
            boolean areCountedByStep = packed != null && packed.stepLimit() <= PackedNumbers.MOST_STEPS;
            int[] present = areCountedByStep ? null : vector.present();
            Tally tally = new Tally(name, areCountedByStep || present != null ? vector : vector.load(areFew));
            if (areCountedByStep) {
                tally.addAllBut(lines.others(), packed);
            } else {
                tally.add(present == null ? lines.lines() : lines.among(present), lines.weights());
            }
            tallies.add(tally);
        }
        return tallies;
    }

    /** Returns the name as in a comparison, where all names are those of fields or attributes. */
    private static String text(Name name) {
        return name.attribute() == null ? name.field() : name.attribute().text();
    }

    private BitSet doubtful(BitSet lines, GroupReader group) throws IOException {
        BitSet doubtful = new BitSet();
        if (isDoubtful.length == 0) {
            return doubtful;
        }
        for (int line = lines.nextSetBit(0); line >= 0; line = lines.nextSetBit(line + 1)) {
            if (isDoubtful[group.shape(line)]) {
                doubtful.set(line);
            }
        }
        return doubtful;
    }

    /** Adds the lines whose value only the complete event shows. */
    private static void addIncomplete(BitSet lines, NameVector vector, BitSet to) {
        for (int line = lines.nextSetBit(0); line >= 0; line = lines.nextSetBit(line + 1)) {
            int code = vector.code(line);
            if (code == NameVector.IN_EVENT || code >= 0 && isElsewhere(vector, code)) {
                to.set(line);
            }
        }
    }

    /** Returns whether only the complete event shows the value of a code. Lists are not compared. */
    private static boolean isElsewhere(NameVector vector, int code) {
        return vector.valueOf(code) == NameVector.NOT_HERE && !vector.isList(code);
    }

    /** The lines of a group whose values are counted. For one thread. */
    private static final class CountedLines {
        /** If at most one line in this number is left out, all are counted, and those subtracted. */
        private static final int MOST = 8;

        private final BitSet counted;
        private final int linesOfGroup;
        private final int count;
        private final long[] weights;

        // Null until they are needed.
        private int[] lines;
        private int[] others;

        /**
         * Creates the lines.
         *
         * @param selected the lines of the question
         * @param complete those of them that are not counted
         * @param weights the weights by line; empty if all are 1
         */
        CountedLines(BitSet selected, BitSet complete, int linesOfGroup, long[] weights) {
            this.counted = (BitSet) selected.clone();
            counted.andNot(complete);
            this.linesOfGroup = linesOfGroup;
            this.count = counted.cardinality();
            this.weights = weights;
        }

        int count() {
            return count;
        }

        /** Returns the weights by line; empty if all are 1. */
        long[] weights() {
            return weights;
        }

        /** Returns the sum of the weights. */
        long weight() {
            return weights.length == 0
                    ? count
                    : Arrays.stream(lines()).mapToLong(line -> weights[line]).sum();
        }

        /** Returns whether they are most of the group, and none is sampled. */
        boolean areMost() {
            return weights.length == 0 && (linesOfGroup - count) * MOST <= linesOfGroup;
        }

        int[] lines() {
            if (lines == null) {
                lines = counted.stream().toArray();
            }
            return lines;
        }

        /** Returns those of some lines that are counted. */
        int[] among(int[] some) {
            return Arrays.stream(some).filter(counted::get).toArray();
        }

        /** Returns the other lines of the group. */
        int[] others() {
            if (others == null) {
                BitSet all = new BitSet();
                all.set(0, linesOfGroup);
                all.andNot(counted);
                others = all.stream().toArray();
            }
            return others;
        }
    }

    /** How often each value of a name occurs. */
    private static final class Tally {
        private final Name name;
        private final NameVector vector;

        // By code; no weights if all are 1.
        private final int[] events;
        private long[] weights = {};

        /** Weights and events. */
        private final Map<Long, long[]> numbers = new HashMap<>();

        // By hash: the last number, and what is to be added for it.
        private final long[] known;
        private final long[] knownWeights;
        private final int[] knownEvents;

        private boolean hasLineOfEvent;

        Tally(Name name, NameVector vector) {
            this.name = name;
            this.vector = vector;
            this.events = new int[vector.different()];
            int remembered = vector.hasNumbers() ? REMEMBERED : 0;
            this.known = new long[remembered];
            this.knownWeights = new long[remembered];
            this.knownEvents = new int[remembered];
        }

        /** @param weightOfLine empty if all are 1 */
        void add(int[] lines, long[] weightOfLine) {
            int[] codes = vector.codes();
            if (weightOfLine.length == 0 && codes != null) {
                for (int line : lines) {
                    int code = codes[line];
                    if (code >= 0) {
                        events[code]++;
                    } else {
                        addOther(code, line, 1);
                    }
                }
                return;
            }
            weights = new long[events.length];
            for (int line : lines) {
                int code = vector.code(line);
                long weight = weightOfLine.length == 0 ? 1 : weightOfLine[line];
                if (code >= 0) {
                    events[code]++;
                    weights[code] += weight;
                } else {
                    addOther(code, line, weight);
                }
            }
        }

        /**
         * Counts all lines except some, none of which is sampled.
         *
         * @param packed the codes or numbers of all lines
         */
        void addAllBut(int[] others, PackedNumbers packed) {
            int[] counts = packed.countSteps((int) packed.stepLimit());
            for (int line : others) {
                counts[(int) packed.step(line)]--;
            }
            for (int step = 0; step < counts.length; step++) {
                long number = packed.ofStep(step);
                if (counts[step] > 0 && vector.isTextOfEachLine()) {
                    events[Math.toIntExact(Objects.checkIndex(number, events.length))] = counts[step];
                } else if (counts[step] > 0 && numbers.size() < MOST_NUMBERS) {
                    numbers.put(number, new long[] {counts[step], counts[step]});
                }
            }
        }

        private void addOther(int code, int line, long weight) {
            if (code == NameVector.NUMBER) {
                add(vector.number(line), weight);
            } else {
                hasLineOfEvent |= code == NameVector.IN_EVENT;
            }
        }

        private void add(long number, long weight) {
            int place = (int) (number * 0x9E3779B97F4A7C15L >>> 54);
            if (known[place] != number) {
                move(place);
                known[place] = number;
            }
            knownWeights[place] += weight;
            knownEvents[place]++;
        }

        /** Adds what is known of a number to that of all, of which more than are compared need not be known. */
        private void move(int place) {
            if (knownEvents[place] > 0 && numbers.size() < MOST_NUMBERS) {
                long[] sums = numbers.computeIfAbsent(known[place], missing -> new long[2]);
                sums[0] += knownWeights[place];
                sums[1] += knownEvents[place];
            }
            knownWeights[place] = 0;
            knownEvents[place] = 0;
        }

        /** Returns whether only the complete events of some lines show their values. */
        boolean isIncomplete() {
            for (int code = 0; code < events.length; code++) {
                if (events[code] > 0 && isElsewhere(vector, code)) {
                    return true;
                }
            }
            return hasLineOfEvent;
        }

        void addTo(SideCounts sides) {
            String text = text(name);
            for (int code = 0; code < events.length && sides.compares(text); code++) {
                if (events[code] == 0 || vector.valueOf(code) == NameVector.NOT_HERE) {
                    continue;
                }
                long weight = weights.length == 0 ? events[code] : weights[code];
                if (name.equals(MESSAGE)) {
                    sides.addMessage((String) vector.valueOf(code), weight, events[code]);
                } else {
                    sides.addValue(text, vector.valueOf(code), weight, events[code]);
                }
            }
            for (int place = 0; place < known.length; place++) {
                move(place);
            }
            numbers.forEach((number, sums) -> sides.addValue(text, number, sums[0], sums[1]));
        }
    }
}
