package dev.graphema.segments;

import dev.graphema.condition.Name;
import dev.graphema.event.Attribute;
import dev.graphema.format.JsonMember;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.partial.SideCounts;
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
import java.util.Set;
import java.util.stream.Stream;

/** Counts the values of all names for a comparison by their codes, so that few lines become events. Safe to share between threads. */
final class ComparedValues {
    /** Of more names, and of more names in all shapes together, each line is read. */
    private static final int MOST_NAMES = 500;

    private static final int MOST_READINGS = 20_000;

    /** So many different numbers are more than are compared. */
    private static final int MOST_NUMBERS = 1000;

    private static final byte HERE = 1;
    private static final byte ELSEWHERE = 2;
    private static final String IN_FIELDS = JsonMember.FIELDS.text() + Column.SEPARATOR;
    private static final Name MESSAGE = new Name(Attribute.MESSAGE, null);

    private final ShapeReadings readings;

    /** By shape: whether its lines have values that only complete events show. */
    private final boolean[] isDoubtful;

    private ComparedValues(ShapeReadings readings, boolean[] isDoubtful) {
        this.readings = readings;
        this.isDoubtful = isDoubtful;
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
        int[] all = lines.stream().toArray();
        List<Integer> present = new ArrayList<>();
        for (int i = 0; i < readings.names().size(); i++) {
            if (sides.compares(text(readings.names().get(i)))) {
                present.add(i);
                addIncomplete(all, vectors.vector(i, false), complete);
            }
        }
        int[] counted = complete.isEmpty()
                ? all
                : Arrays.stream(all).filter(line -> !complete.get(line)).toArray();
        List<Runnable> found = new ArrayList<>(); // nothing is added before all values are read
        for (int i : present) {
            Name name = readings.names().get(i);
            Tally tally = new Tally(vectors.vector(i, false));
            tally.add(counted, weights);
            found.add(() -> tally.addTo(name, sides));
        }
        long weight = weights.length == 0
                ? counted.length
                : Arrays.stream(counted).mapToLong(line -> weights[line]).sum();
        sides.addEvents(weight, counted.length);
        found.forEach(Runnable::run);
        return complete;
    }

    /** Returns the name as in a comparison, where all names are those of fields or attributes. */
    private static String text(Name name) {
        return name.attribute() == null ? name.field() : name.attribute().text();
    }

    private BitSet doubtful(BitSet lines, GroupReader group) throws IOException {
        BitSet doubtful = new BitSet();
        for (int line = lines.nextSetBit(0); line >= 0; line = lines.nextSetBit(line + 1)) {
            if (isDoubtful[group.shape(line)]) {
                doubtful.set(line);
            }
        }
        return doubtful;
    }

    /** Adds the lines whose value only the complete event shows. Lists are not compared. */
    private static void addIncomplete(int[] lines, NameVector vector, BitSet to) {
        byte[] places = new byte[vector.different()];
        for (int line : lines) {
            int code = vector.code(line);
            if (code >= 0 && places[code] == 0) {
                boolean isElsewhere = vector.valueOf(code) == NameVector.NOT_HERE && !vector.isList(code);
                places[code] = isElsewhere ? ELSEWHERE : HERE;
            }
            if (code == NameVector.IN_EVENT || code >= 0 && places[code] == ELSEWHERE) {
                to.set(line);
            }
        }
    }

    /** How often each value of a name occurs. */
    private static final class Tally {
        private final NameVector vector;
        private final long[] weights;
        private final int[] events;

        /** Weights and events. */
        private final Map<Long, long[]> numbers = new HashMap<>();

        Tally(NameVector vector) {
            this.vector = vector;
            this.weights = new long[vector.different()];
            this.events = new int[vector.different()];
        }

        /** @param weightOfLine empty if all are 1 */
        void add(int[] lines, long[] weightOfLine) {
            for (int line : lines) {
                int code = vector.code(line);
                long weight = weightOfLine.length == 0 ? 1 : weightOfLine[line];
                if (code >= 0) {
                    weights[code] += weight;
                    events[code]++;
                } else if (code == NameVector.NUMBER && numbers.size() < MOST_NUMBERS) {
                    long[] sums = numbers.computeIfAbsent(vector.number(line), missing -> new long[2]);
                    sums[0] += weight;
                    sums[1]++;
                }
            }
        }

        void addTo(Name name, SideCounts sides) {
            String text = text(name);
            for (int code = 0; code < events.length && sides.compares(text); code++) {
                if (events[code] == 0 || vector.valueOf(code) == NameVector.NOT_HERE) {
                    continue;
                }
                if (name.equals(MESSAGE)) {
                    sides.addMessage((String) vector.valueOf(code), weights[code], events[code]);
                } else {
                    sides.addValue(text, vector.valueOf(code), weights[code], events[code]);
                }
            }
            numbers.forEach((number, sums) -> sides.addValue(text, number, sums[0], sums[1]));
        }
    }
}
