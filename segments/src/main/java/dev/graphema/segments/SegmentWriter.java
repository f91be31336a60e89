package dev.graphema.segments;

import dev.graphema.lines.json.JsonTime;
import dev.graphema.segments.column.ByteWriter;
import dev.graphema.segments.column.Numbers;
import dev.graphema.segments.column.Texts;
import dev.graphema.segments.file.BlockWriter;
import dev.graphema.segments.file.Directory;
import dev.graphema.segments.line.Column;
import dev.graphema.segments.line.Kind;
import dev.graphema.segments.line.LineParser;
import dev.graphema.segments.line.Shapes;
import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * Writes lines into a segment, which has its name when it is complete and on the disk. Lines in Graphema JSON are divided into
 * columns; all others are kept as they are. Reading returns every line byte by byte. For one thread.
 *
 * <pre>{@code
 * try (SegmentWriter writer = new SegmentWriter(Path.of("deck.gseg"))) {
 *     for (byte[] line : lines) {
 *         writer.add(line, 0, line.length);
 *     }
 *     writer.finish();
 * }
 * }</pre>
 */
public final class SegmentWriter implements Closeable {
    /** The most lines of a group. */
    public static final int LINES_OF_GROUP = 1 << 16;

    /** A group with longer lines has fewer of them, so that the memory of the writer is bounded. */
    private static final int BYTES_OF_GROUP = 32 << 20;

    private final BlockWriter file;
    private final LineParser parser = new LineParser();
    private final Shapes shapes = new Shapes();
    private final JsonTime times = new JsonTime();
    private final ByteWriter block = new ByteWriter(1 << 20);
    private final List<Directory.Group> groups = new ArrayList<>();
    private final Map<Integer, Gathered> gathered = new TreeMap<>();
    private final Texts.Builder others = new Texts.Builder();
    private long[] shapeOfLine = new long[1024];
    private int lines;
    private int rows;
    private long bytes;
    private long firstTime = Long.MAX_VALUE;
    private long lastTime = Long.MIN_VALUE;

    /** The values of a column of the current group. */
    private static final class Gathered {
        private final Kind kind;
        private final Texts.Builder texts;
        private long[] numbers = {};
        private int count;

        Gathered(Kind kind) {
            this.kind = kind;
            this.texts = kind.isNumber() ? null : new Texts.Builder();
        }

        void add(long number) {
            if (count == numbers.length) {
                numbers = Arrays.copyOf(numbers, Math.max(1024, 2 * count));
            }
            numbers[count++] = number;
        }

        int count() {
            return texts == null ? count : texts.count();
        }

        void writeTo(ByteWriter to) {
            if (texts == null) {
                Numbers.write(numbers, count, to);
                count = 0;
            } else {
                texts.writeTo(to);
            }
        }
    }

    /**
     * Begins a segment.
     *
     * @param file the name of the complete file; a file of this name is replaced
     * @throws IOException if the file cannot be created
     */
    public SegmentWriter(Path file) throws IOException {
        this.file = new BlockWriter(file);
    }

    /**
     * Adds a line.
     *
     * @param to its end, without its line feed
     * @throws IOException if a group cannot be written
     */
    public void add(byte[] line, int from, int to) throws IOException {
        if (lines == LINES_OF_GROUP || lines > 0 && bytes + (to - from) > BYTES_OF_GROUP) {
            writeGroup();
        }
        int shape = parser.parse(line, from, to) ? shapes.number(parser) : Shapes.NONE;
        if (lines == shapeOfLine.length) {
            shapeOfLine = Arrays.copyOf(shapeOfLine, 2 * lines);
        }
        shapeOfLine[lines++] = shape + 1;
        bytes += to - from;
        if (shape == Shapes.NONE) {
            others.add(line, from, to);
            return;
        }
        rows++;
        int[] columns = shapes.shapes().get(shape).columns();
        for (int i = 0; i < columns.length; i++) {
            value(columns[i], i, line);
        }
        long time = time(line, parser.from(0));
        firstTime = Math.min(firstTime, time);
        lastTime = Math.max(lastTime, time);
    }

    private void value(int column, int index, byte[] line) {
        Kind kind = parser.kind(index);
        Gathered values = gathered.get(column);
        if (values == null) {
            values = new Gathered(kind);
            gathered.put(column, values);
        }
        int from = parser.from(index);
        int to = parser.to(index);
        switch (kind) {
            case TIME -> values.add(time(line, from));
            case INTEGER -> values.add(integer(line, from, to));
            default -> values.texts.add(line, from, to);
        }
    }

    private long time(byte[] line, int from) {
        if (!times.isAt(line, from)) {
            throw new IllegalStateException("the parser has accepted an invalid time");
        }
        return times.epochNanos();
    }

    private static long integer(byte[] line, int from, int to) {
        boolean isNegative = line[from] == '-';
        long number = 0;
        for (int i = isNegative ? from + 1 : from; i < to; i++) {
            number = number * 10 + line[i] - '0';
        }
        return isNegative ? -number : number;
    }

    private void writeGroup() throws IOException {
        Map<Integer, Directory.Values> values = new TreeMap<>();
        for (Map.Entry<Integer, Gathered> each : gathered.entrySet()) {
            int count = each.getValue().count();
            if (count > 0) {
                each.getValue().writeTo(block);
                values.put(each.getKey(), new Directory.Values(count, written()));
            }
        }
        Numbers.write(shapeOfLine, lines, block);
        Directory.Block shapeBlock = written();
        Directory.Block otherBlock = null;
        if (others.count() > 0) {
            others.writeTo(block);
            otherBlock = written();
        }
        groups.add(new Directory.Group(rows, lines, firstTime, lastTime, shapeBlock, otherBlock, values));
        lines = 0;
        rows = 0;
        bytes = 0;
        firstTime = Long.MAX_VALUE;
        lastTime = Long.MIN_VALUE;
    }

    private Directory.Block written() throws IOException {
        Directory.Block place = file.block(block);
        block.clear();
        return place;
    }

    /** Writes what is left, and publishes the file. */
    public void finish() throws IOException {
        if (lines > 0) {
            writeGroup();
        }
        List<Column> columns = shapes.columns();
        file.finish(new Directory(columns, shapes.shapes(), groups));
    }

    /** Removes the file if it was not finished. */
    @Override
    public void close() throws IOException {
        file.close();
    }
}
