package dev.graphema.segments;

import dev.graphema.format.JsonMember;
import dev.graphema.segments.column.ByteWriter;
import dev.graphema.segments.column.Ids;
import dev.graphema.segments.column.Numbers;
import dev.graphema.segments.column.PairCounts;
import dev.graphema.segments.column.RareRows;
import dev.graphema.segments.column.TextParts;
import dev.graphema.segments.column.Texts;
import dev.graphema.segments.file.BlockWriter;
import dev.graphema.segments.file.Directory;
import dev.graphema.segments.file.UnfinishedFile;
import dev.graphema.segments.line.Column;
import dev.graphema.segments.line.Kind;
import dev.graphema.segments.line.LineParser;
import dev.graphema.segments.line.Shapes;
import java.io.Closeable;
import java.io.IOException;
import java.nio.channels.WritableByteChannel;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * Writes lines into a segment, which has its name when it is complete and on the disk. Lines in Graphema JSON are divided into
 * columns; all others are kept unchanged. Reading returns every line byte by byte. For one thread.
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

    /** Bytes of a line behind these count as several, because readers need memory for long texts of a group, and gain little. */
    private static final int USUAL_LINE = 1 << 10;

    private static final int OF_LONG_LINE = 4;

    /** The file that is published; null if the caller provides the channel. */
    private final UnfinishedFile file;

    private final BlockWriter blocks;
    private final LineParser parser = new LineParser();
    private final Shapes shapes = new Shapes();
    private final byte[] id = new byte[Ids.MOST_BYTES];
    private final ByteWriter block = new ByteWriter(1 << 20);
    private final List<Directory.Group> groups = new ArrayList<>();

    /** By the number of the column; null before its first value. */
    private Gathered[] gathered = new Gathered[64];

    private final Texts.Builder others = new Texts.Builder();
    private long[] otherTimes = new long[64];
    private boolean areTimesKnown = true;
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
        this.file = new UnfinishedFile(file);
        this.blocks = new BlockWriter(this.file);
    }

    /**
     * Begins a segment whose bytes the caller receives.
     *
     * @param to receives the bytes, from the first one of the segment on; it is not closed
     * @throws IOException if it cannot be written
     */
    public SegmentWriter(WritableByteChannel to) throws IOException {
        this.file = null;
        this.blocks = new BlockWriter(to);
    }

    /**
     * Adds a line.
     *
     * @param to its end, without its line feed
     * @throws IOException if a group cannot be written
     */
    public void add(byte[] line, int from, int to) throws IOException {
        areTimesKnown = false;
        add(line, from, to, 0);
    }

    /**
     * Adds a line with a known time, which is kept also if the line is not Graphema JSON.
     *
     * @param to its end, without its line feed
     * @param time the time of its event, in nanoseconds since 1970
     * @throws IOException if a group cannot be written
     */
    public void add(byte[] line, int from, int to, long time) throws IOException {
        if (lines == LINES_OF_GROUP || lines > 0 && bytes + weight(to - from) > BYTES_OF_GROUP) {
            writeGroup();
        }
        int shape = parser.parse(line, from, to) ? shapes.number(parser) : Shapes.NONE;
        if (lines == shapeOfLine.length) {
            shapeOfLine = Arrays.copyOf(shapeOfLine, 2 * lines);
        }
        shapeOfLine[lines++] = shape + 1;
        bytes += weight(to - from);
        if (shape == Shapes.NONE) {
            other(line, from, to, time);
            return;
        }
        rows++;
        int[] columns = shapes.shapes().get(shape).columns();
        for (int i = 0; i < columns.length; i++) {
            value(columns[i], i, line);
        }
        long own = parser.time(0);
        firstTime = Math.min(firstTime, own);
        lastTime = Math.max(lastTime, own);
    }

    private static long weight(int length) {
        return length + (OF_LONG_LINE - 1L) * Math.max(0, length - USUAL_LINE);
    }

    private void other(byte[] line, int from, int to, long time) {
        int index = others.count();
        if (index == otherTimes.length) {
            otherTimes = Arrays.copyOf(otherTimes, 2 * index);
        }
        otherTimes[index] = time;
        others.add(line, from, to);
    }

    private void value(int column, int index, byte[] line) {
        Kind kind = parser.kind(index);
        Gathered values = column < gathered.length ? gathered[column] : null;
        if (values == null) {
            values = begun(column, kind);
        }
        int from = parser.from(index);
        int to = parser.to(index);
        switch (kind) {
            case TIME -> values.add(parser.time(index));
            case INTEGER -> values.add(integer(line, from, to));
            case ID -> values.texts.add(id, 0, Ids.pack(line, from, to, id));
            default -> values.texts.add(line, from, to);
        }
    }

    private Gathered begun(int column, Kind kind) {
        if (column >= gathered.length) {
            gathered = Arrays.copyOf(gathered, Math.max(column + 1, 2 * gathered.length));
        }
        gathered[column] = new Gathered(kind);
        return gathered[column];
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
        Directory.Block traces = writtenTraces();
        Directory.Block counts = writtenCounts();
        for (int column = 0; column < gathered.length; column++) {
            Gathered each = gathered[column];
            int count = each == null ? 0 : each.count();
            if (count > 0) {
                Directory.Block rare = count == lines ? writtenRareRows(each) : null;
                Directory.Block parts = rare == null ? writtenParts(each) : null;
                each.writeTo(block);
                values.put(column, new Directory.Values(count, written(), rare, parts));
            }
        }
        Numbers.write(shapeOfLine, lines, block);
        Directory.Block shapeBlock = written();
        groups.add(new Directory.Group(
                rows, lines, firstTime, lastTime, shapeBlock, writtenOthers(), traces, counts, values));
        lines = 0;
        rows = 0;
        bytes = 0;
        firstTime = Long.MAX_VALUE;
        lastTime = Long.MIN_VALUE;
    }

    /** Returns null if no line has a trace. */
    private Directory.Block writtenTraces() throws IOException {
        Texts.Builder traces = texts(JsonMember.TRACE, Kind.ID);
        if (traces == null) {
            return null;
        }
        traces.writeFilterTo(block);
        return written();
    }

    /** Returns null if not every line has a level, or only some lines have a service. */
    private Directory.Block writtenCounts() throws IOException {
        Texts.Builder levels = texts(JsonMember.LEVEL, Kind.TEXT);
        Texts.Builder services = texts(JsonMember.SERVICE, Kind.TEXT);
        boolean isComplete = levels != null && levels.count() == rows && (services == null || services.count() == rows);
        if (!isComplete) {
            return null;
        }
        Gathered weights = gathered(RowWeights.COLUMN);
        long[] ofRows = RowWeights.of(shapes, shapeOfLine, lines, weights == null ? new long[0] : weights.numbers);
        return ofRows != null && PairCounts.write(levels, services, ofRows, block) ? written() : null;
    }

    /** Returns null if the values are no texts, or none of them is rare. */
    private Directory.Block writtenRareRows(Gathered values) throws IOException {
        return values.texts != null && RareRows.write(values.texts, block) ? written() : null;
    }

    /** Returns null if the values are no texts, or a filter of their parts is not worth it. */
    private Directory.Block writtenParts(Gathered values) throws IOException {
        boolean hasParts = values.texts != null && values.kind != Kind.ID;
        return hasParts && TextParts.write(values.texts, block) ? written() : null;
    }

    /** Returns the values of a member of the group; null if there are none. */
    private Texts.Builder texts(JsonMember member, Kind kind) {
        Gathered values = gathered(new Column(member.text(), kind));
        return values == null || values.count() == 0 ? null : values.texts;
    }

    /** Returns null before the first value of a column. */
    private Gathered gathered(Column column) {
        int number = shapes.columns().indexOf(column);
        return number >= 0 && number < gathered.length ? gathered[number] : null;
    }

    /** Returns null if there are none. */
    private Directory.Others writtenOthers() throws IOException {
        int count = others.count();
        if (count == 0) {
            return null;
        }
        others.writeTo(block);
        Directory.Block texts = written();
        if (!areTimesKnown) {
            return new Directory.Others(texts, null);
        }
        Numbers.write(otherTimes, count, block);
        return new Directory.Others(texts, written());
    }

    private Directory.Block written() throws IOException {
        Directory.Block place = blocks.block(block);
        block.clear();
        return place;
    }

    /** Writes what is left; a file is published, a channel of the caller is not flushed or closed. */
    public void finish() throws IOException {
        if (lines > 0) {
            writeGroup();
        }
        List<Column> columns = shapes.columns();
        blocks.finish(new Directory(columns, shapes.shapes(), groups));
        if (file != null) {
            file.finish();
        }
    }

    /** Removes the file if it was not finished; a channel of the caller stays open. */
    @Override
    public void close() throws IOException {
        if (file != null) {
            file.close();
        }
    }
}
