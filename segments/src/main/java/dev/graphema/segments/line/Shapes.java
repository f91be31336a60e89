package dev.graphema.segments.line;

import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** The shapes and columns of the lines of a segment, with their numbers. For one thread. */
public final class Shapes {
    /** The number of a line that has no shape, because it is kept unchanged. */
    public static final int NONE = -1;

    /** Lines with names of which each is different would have as many shapes. */
    private static final int MOST_SHAPES = 10_000;

    private static final int MOST_COLUMNS = 5_000;

    private final Map<Skeleton, Skeleton> known = new HashMap<>();
    private final Skeleton looked = new Skeleton(null, 0);

    /** The last one that was found: many lines have the shape of the one before. */
    private Skeleton last = new Skeleton(new byte[0], 0);

    private final List<Shape> shapes = new ArrayList<>();
    private final Map<Column, Integer> columnNumbers = new HashMap<>();
    private final List<Column> columns = new ArrayList<>();

    /** The bytes of a line without its values, as a key. */
    private static final class Skeleton {
        private byte[] bytes;
        private int length;

        /** The number of its shape. */
        private int number;

        Skeleton(byte[] bytes, int length) {
            this.bytes = bytes;
            this.length = length;
        }

        @Override
        public boolean equals(Object other) {
            return other instanceof Skeleton that && Arrays.equals(bytes, 0, length, that.bytes, 0, that.length);
        }

        @Override
        public int hashCode() {
            int hash = length;
            for (int i = 0; i < length; i++) {
                hash = 31 * hash + bytes[i];
            }
            return hash;
        }
    }

    /** Returns the number of the shape of a parsed line; {@link #NONE} if a name is repeated in it, or there are too many. */
    public int number(LineParser line) {
        looked.bytes = line.skeleton();
        looked.length = line.skeletonLength();
        Skeleton found = looked.equals(last) ? last : known.get(looked);
        if (found != null) {
            last = found;
            return found.number;
        }
        if (known.size() >= MOST_SHAPES || columns.size() >= MOST_COLUMNS) {
            return NONE;
        }
        Skeleton skeleton = new Skeleton(Arrays.copyOf(looked.bytes, looked.length), looked.length);
        Shape shape = new Reader(skeleton.bytes).shape();
        skeleton.number = shape == null ? NONE : shapes.size();
        if (shape != null) {
            shapes.add(shape);
        }
        known.put(skeleton, skeleton);
        return skeleton.number;
    }

    /** Returns the shapes by their numbers. */
    public List<Shape> shapes() {
        return shapes;
    }

    /** Returns the columns by their numbers. */
    public List<Column> columns() {
        return columns;
    }

    private int number(Column column) {
        return columnNumbers.computeIfAbsent(column, added -> {
            columns.add(added);
            return columns.size() - 1;
        });
    }

    /** Reads names and literals of a skeleton, which is valid JSON but for its values. */
    private final class Reader {
        private final byte[] bytes;
        private int at;
        private int literalFrom;
        private final List<byte[]> literals = new ArrayList<>();
        private final List<Integer> found = new ArrayList<>();
        private final Map<String, String> constants = new LinkedHashMap<>();
        private final List<String> groups = new ArrayList<>();
        private final Deque<String> path = new ArrayDeque<>();
        private final Set<String> paths = new HashSet<>();
        private boolean isRepeated;

        Reader(byte[] bytes) {
            this.bytes = bytes;
        }

        /** Returns the shape; null if a name is repeated. */
        Shape shape() {
            object();
            literals.add(Arrays.copyOfRange(bytes, literalFrom, bytes.length));
            return isRepeated
                    ? null
                    : new Shape(literals, found.stream().mapToInt(i -> i).toArray(), constants, groups);
        }

        private void object() {
            at++;
            while (bytes[at] != '}') {
                at += bytes[at] == ',' ? 1 : 0;
                path.addLast(name());
                at++; // the colon
                String whole = String.join(String.valueOf(Column.SEPARATOR), path);
                isRepeated |= !paths.add(whole);
                value(whole);
                path.removeLast();
            }
            at++;
        }

        private String name() {
            int from = ++at;
            while (bytes[at] != '"') {
                at += bytes[at] == '\\' ? 2 : 1;
            }
            return new String(bytes, from, at++ - from, StandardCharsets.UTF_8);
        }

        private void value(String whole) {
            switch (bytes[at]) {
                case '{' -> {
                    groups.add(whole);
                    object();
                }
                case 't' -> constant(whole, "true");
                case 'f' -> constant(whole, "false");
                case 'n' -> constant(whole, "null");
                case '"' -> {
                    at++;
                    column(whole);
                    at++;
                }
                default -> column(whole);
            }
        }

        private void constant(String whole, String value) {
            constants.put(whole, value);
            at += value.length();
        }

        private void column(String whole) {
            literals.add(Arrays.copyOfRange(bytes, literalFrom, at));
            found.add(number(new Column(whole, Kind.values()[bytes[at]])));
            literalFrom = ++at;
        }
    }
}
