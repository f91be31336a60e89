package dev.graphema.segments.line;

import java.util.Arrays;

/**
 * The bytes between the values of earlier lines, as a tree: what follows a value of some kind is one of few texts, so that a line
 * like an earlier one need not be read name by name. Bounded in size; for one thread.
 */
final class KnownLines {
    private static final int MOST_NEXT = 16;
    private static final int MOST_NODES = 20_000;
    private static final int KINDS = Kind.values().length;

    private final Node root = new Node();
    private int nodes = 1;

    /** A place in lines: their begin, or behind a value. */
    static final class Node {
        private Literal[] next = {};

        /** Returns how many literals can follow. */
        int size() {
            return next.length;
        }

        Literal get(int index) {
            return next[index];
        }

        /** Makes a literal the first one that is tried. */
        void prefer(int index) {
            Literal preferred = next[index];
            next[index] = next[0];
            next[0] = preferred;
        }

        /** Returns null if there are too many. */
        private Literal literal(byte[] line, int from, int to, boolean isWhole) {
            for (Literal each : next) {
                if (each.isWhole == isWhole && Arrays.equals(each.bytes, 0, each.bytes.length, line, from, to)) {
                    return each;
                }
            }
            if (next.length == MOST_NEXT) {
                return null;
            }
            next = Arrays.copyOf(next, next.length + 1);
            next[next.length - 1] = new Literal(Arrays.copyOfRange(line, from, to), isWhole);
            return next[next.length - 1];
        }
    }

    /** The bytes before a value, or those at the end of a line. */
    static final class Literal {
        private final byte[] bytes;
        private final boolean isWhole;

        /** By kind of the value. */
        private final Node[] behind = new Node[KINDS];

        /** The number of the shape of a line that ends with it; negative if none does. */
        private int shape = Shapes.NONE;

        private Literal(byte[] bytes, boolean isWhole) {
            this.bytes = bytes;
            this.isWhole = isWhole;
        }

        boolean isAt(byte[] line, int at, int end) {
            return end - at >= bytes.length && Arrays.equals(bytes, 0, bytes.length, line, at, at + bytes.length);
        }

        int length() {
            return bytes.length;
        }

        /** Returns whether the value behind it is one in quotes, the first of which belongs to the literal. */
        boolean isQuoted() {
            return !isWhole && bytes[bytes.length - 1] == '"';
        }

        /** Returns whether the value behind it is one piece of JSON, whatever it is. */
        boolean isWhole() {
            return isWhole;
        }

        /** Returns the place behind a value; null if no line was like that. */
        Node behind(Kind kind) {
            return behind[kind.ordinal()];
        }

        int shape() {
            return shape;
        }
    }

    /** Returns the begin of lines. */
    Node root() {
        return root;
    }

    /**
     * Adds a parsed line.
     *
     * @param shape the number of its shape
     */
    void add(LineParser line, int shape) {
        Node node = root;
        int at = line.begin();
        for (int value = 0; value < line.values(); value++) {
            Literal literal = node.literal(line.bytes(), at, line.from(value), line.isWhole(value));
            if (literal == null || literal.behind(line.kind(value)) == null && nodes == MOST_NODES) {
                return;
            }
            if (literal.behind(line.kind(value)) == null) {
                literal.behind[line.kind(value).ordinal()] = new Node();
                nodes++;
            }
            node = literal.behind(line.kind(value));
            at = line.to(value);
        }
        Literal last = node.literal(line.bytes(), at, line.end(), false);
        if (last != null) {
            last.shape = shape;
        }
    }
}
