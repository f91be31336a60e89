package dev.graphema.segments.file;

import dev.graphema.segments.column.ByteReader;
import dev.graphema.segments.column.ByteWriter;
import dev.graphema.segments.line.Column;
import dev.graphema.segments.line.Kind;
import dev.graphema.segments.line.Shape;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;

/**
 * What a segment contains, and where.
 *
 * @param columns the columns by their numbers
 * @param shapes the shapes by their numbers
 * @param groups the groups of lines, in the order of the lines
 */
public record Directory(List<Column> columns, List<Shape> shapes, List<Group> groups) {
    /**
     * A group of lines.
     *
     * @param rows the number of lines that have a shape
     * @param lines the number of all lines
     * @param firstTime the earliest time of a line with a shape
     * @param lastTime the latest one
     * @param shapes the block with the number of the shape of each line, 0 for one that is kept unchanged, else one more than
     *     its number
     * @param others the lines that are kept unchanged; null for none
     * @param traces the block with the filter of the traces; null if no line has one
     * @param counts the block with the counts by level and service; null for none
     * @param values the blocks with the values by column
     */
    public record Group(
            int rows,
            int lines,
            long firstTime,
            long lastTime,
            Block shapes,
            Others others,
            Block traces,
            Block counts,
            Map<Integer, Values> values) {
        /** Returns how many lines have a value in a column. */
        public int count(int column) {
            Values ofColumn = values.get(column);
            return ofColumn == null ? 0 : ofColumn.count;
        }

        /** Returns all blocks that are necessary for reading the group. */
        public List<Block> blocks() {
            Stream<Block> ofOthers = others == null ? Stream.empty() : Stream.of(others.texts, others.times);
            Stream<Block> ofValues = values.values().stream().map(Values::block);
            return present(Stream.of(Stream.of(shapes), ofOthers, ofValues));
        }

        /** Returns the blocks that only make searching faster. */
        public List<Block> optionalBlocks() {
            Stream<Block> ofValues = values.values().stream().flatMap(each -> Stream.of(each.rare, each.parts));
            return present(Stream.of(Stream.of(traces, counts), ofValues));
        }

        private static List<Block> present(Stream<Stream<Block>> blocks) {
            return blocks.flatMap(each -> each).filter(Objects::nonNull).toList();
        }
    }

    /**
     * The lines of a group that are kept unchanged.
     *
     * @param texts the block with the lines
     * @param times the block with the times of their events; null if they are not known
     */
    public record Others(Block texts, Block times) {
        private void writeTo(ByteWriter to) {
            texts.writeTo(to);
            Block.writeTo(times, to);
        }

        private static Others read(ByteReader from) {
            Block texts = Block.read(from);
            return new Others(texts, Block.readIfAny(from));
        }
    }

    /**
     * A place in the file.
     *
     * @param offset where it begins
     * @param length its bytes
     * @param checksum CRC-32C of the bytes
     */
    public record Block(long offset, int length, int checksum) {
        private void writeTo(ByteWriter to) {
            to.putLong(offset).putInt(length).putInt(checksum);
        }

        /** @param block null for none */
        private static void writeTo(Block block, ByteWriter to) {
            to.putByte(block == null ? 0 : 1);
            if (block != null) {
                block.writeTo(to);
            }
        }

        private static Block readIfAny(ByteReader from) {
            return from.getByte() == 0 ? null : read(from);
        }

        private static Block read(ByteReader from) {
            return new Block(from.getLong(), from.getInt(), from.getInt());
        }
    }

    /**
     * The values of a column in a group. At most one of the blocks that make searching faster is there.
     *
     * @param count how many lines have one
     * @param block where they are
     * @param rare the block with the rows of rare values; null for none
     * @param parts the block with the filter of parts of texts; null for none
     */
    public record Values(int count, Block block, Block rare, Block parts) {
        private static final int RARE = 1;
        private static final int PARTS = 2;

        private void writeTo(ByteWriter to) {
            to.putInt(count);
            block.writeTo(to);
            to.putByte(rare != null ? RARE : parts != null ? PARTS : 0);
            if (rare != null) {
                rare.writeTo(to);
            } else if (parts != null) {
                parts.writeTo(to);
            }
        }

        private static Values read(ByteReader from) {
            int count = from.getInt();
            Block block = Block.read(from);
            int kind = from.getByte();
            Block more = kind == 0 ? null : Block.read(from);
            return new Values(count, block, kind == RARE ? more : null, kind == PARTS ? more : null);
        }
    }

    void writeTo(ByteWriter to) {
        to.putInt(columns.size());
        for (Column column : columns) {
            to.putByte(column.kind().ordinal());
            text(column.path(), to);
        }
        to.putInt(shapes.size());
        for (Shape shape : shapes) {
            to.putShort(shape.columns().length);
            for (int i = 0; i < shape.literals().size(); i++) {
                byte[] literal = shape.literals().get(i);
                to.putInt(literal.length).put(literal);
                if (i < shape.columns().length) {
                    to.putShort(shape.columns()[i]);
                }
            }
            to.putShort(shape.constants().size());
            shape.constants().forEach((path, value) -> {
                text(path, to);
                text(value, to);
            });
            to.putShort(shape.groups().size());
            shape.groups().forEach(path -> text(path, to));
        }
        to.putInt(groups.size());
        for (Group group : groups) {
            to.putInt(group.rows).putInt(group.lines).putLong(group.firstTime).putLong(group.lastTime);
            group.shapes.writeTo(to);
            to.putByte(group.others == null ? 0 : 1);
            if (group.others != null) {
                group.others.writeTo(to);
            }
            Block.writeTo(group.traces, to);
            Block.writeTo(group.counts, to);
            to.putInt(group.values.size());
            group.values.forEach((column, values) -> {
                to.putInt(column);
                values.writeTo(to);
            });
        }
    }

    private static void text(String text, ByteWriter to) {
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        to.putInt(bytes.length).put(bytes);
    }

    private static String text(ByteReader from) {
        return new String(from.get(from.getInt()), StandardCharsets.UTF_8);
    }

    static Directory read(ByteReader from) {
        List<Column> columns = new ArrayList<>();
        for (int left = from.getInt(); left > 0; left--) {
            Kind kind = Kind.values()[from.getByte()];
            columns.add(new Column(text(from), kind));
        }
        List<Shape> shapes = new ArrayList<>();
        for (int left = from.getInt(); left > 0; left--) {
            shapes.add(shape(from));
        }
        List<Group> groups = new ArrayList<>();
        for (int left = from.getInt(); left > 0; left--) {
            groups.add(group(from));
        }
        return new Directory(columns, shapes, groups);
    }

    private static Shape shape(ByteReader from) {
        int[] columns = new int[from.getShort()];
        List<byte[]> literals = new ArrayList<>();
        for (int i = 0; i <= columns.length; i++) {
            literals.add(from.get(from.getInt()));
            if (i < columns.length) {
                columns[i] = from.getShort();
            }
        }
        Map<String, String> constants = new LinkedHashMap<>();
        for (int left = from.getShort(); left > 0; left--) {
            constants.put(text(from), text(from));
        }
        List<String> groups = new ArrayList<>();
        for (int left = from.getShort(); left > 0; left--) {
            groups.add(text(from));
        }
        return new Shape(literals, columns, constants, groups);
    }

    private static Group group(ByteReader from) {
        int rows = from.getInt();
        int lines = from.getInt();
        long firstTime = from.getLong();
        long lastTime = from.getLong();
        Block shapes = Block.read(from);
        Others others = from.getByte() == 0 ? null : Others.read(from);
        Block traces = Block.readIfAny(from);
        Block counts = Block.readIfAny(from);
        Map<Integer, Values> values = new LinkedHashMap<>();
        for (int left = from.getInt(); left > 0; left--) {
            values.put(from.getInt(), Values.read(from));
        }
        return new Group(rows, lines, firstTime, lastTime, shapes, others, traces, counts, values);
    }
}
