package dev.graphema.segments;

import com.github.luben.zstd.ZstdException;
import dev.graphema.format.Rfc3339;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.segments.column.ByteReader;
import dev.graphema.segments.column.Ids;
import dev.graphema.segments.column.PackedNumbers;
import dev.graphema.segments.column.RareRows;
import dev.graphema.segments.column.TextParts;
import dev.graphema.segments.column.Texts;
import dev.graphema.segments.file.Directory;
import dev.graphema.segments.file.OptionalBlock;
import dev.graphema.segments.file.SegmentException;
import dev.graphema.segments.file.SegmentFile;
import dev.graphema.segments.line.Column;
import dev.graphema.segments.line.Kind;
import dev.graphema.segments.line.Shape;
import dev.graphema.text.Digits;
import java.io.IOException;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import java.util.stream.IntStream;

/** The values of a group, decoded when they are needed, and its lines, assembled again. For one thread. */
final class GroupReader {
    private static final int TIME_LENGTH = 30;
    private static final int[] NOTHING = {};

    private final CoverageBuilder coverage;
    private final SegmentFile file;
    private final Directory directory;
    private final Directory.Group group;

    /** One more than the number of the shape of each line; null until they are needed. */
    private int[] shapeOfLine;

    /** By column; null until they are needed. */
    private final long[][] numbers;

    private final PackedNumbers[] packed;

    /** Blocks that were read before they are needed. */
    private final Map<Directory.Block, ByteReader> loaded = new HashMap<>();

    private final Texts[] texts;
    private final Rfc3339 times = new Rfc3339();

    /** By column, if columns are followed: the index of its value in the current line, or in the next one that has one. */
    private final int[] next;

    private boolean isFollowing;

    /** By shape: its followed columns. */
    private final int[][] followed;

    /** By shape: how many lines before the current one have it. */
    private final int[] seen;

    /** By column: the shapes that have a value in it; null until needed. */
    private final int[][] shapesOfColumn;

    /** The current line, if it is moved to. */
    private int current;

    /** @param coverage receives the bytes that are read */
    GroupReader(SegmentFile file, Directory.Group group, CoverageBuilder coverage) {
        this.coverage = coverage;
        this.file = file;
        this.directory = file.contents();
        this.group = group;
        this.next = new int[directory.columns().size()];
        this.numbers = new long[next.length][];
        this.packed = new PackedNumbers[next.length];
        this.texts = new Texts[next.length];
        this.shapesOfColumn = new int[next.length][];
        this.seen = new int[directory.shapes().size()];
        this.followed = new int[seen.length][];
        Arrays.fill(followed, NOTHING);
    }

    /** Decodes the bytes of a block. */
    private interface Decoder<T> {
        T decode(ByteReader from);
    }

    private <T> T decoded(Directory.Block block, Decoder<T> decoder) throws IOException {
        ByteReader known = loaded.remove(block);
        ByteReader bytes = known == null ? file.read(block) : known;
        coverage.bytes(block.length());
        try {
            return decoder.decode(bytes);
        } catch (IndexOutOfBoundsException | ArithmeticException | NegativeArraySizeException | ZstdException e) {
            throw file.damaged(block, e);
        }
    }

    /** Reads the blocks of all columns, so that the file can be closed. */
    void loadAll() throws IOException {
        loaded.put(group.shapes(), file.read(group.shapes()));
        for (Directory.Values values : group.values().values()) {
            loaded.put(values.block(), file.read(values.block()));
        }
    }

    int lines() {
        return group.lines();
    }

    /** Returns the number of the shape of a line; -1 for one that is kept unchanged. */
    int shape(int line) throws IOException {
        return shapes()[line] - 1;
    }

    /**
     * Returns the lines with these shapes, in order.
     *
     * @param count their number, by which the group describes them
     */
    int[] linesOf(boolean[] isWanted, int count) throws IOException {
        int[] lines = new int[count];
        int[] shapes = shapes();
        int found = 0;
        for (int line = 0; line < shapes.length; line++) {
            if (shapes[line] > 0 && isWanted[shapes[line] - 1]) {
                lines[found++] = line;
            }
        }
        if (found != count) {
            throw inconsistent(null);
        }
        return lines;
    }

    private int[] shapes() throws IOException {
        if (shapeOfLine == null) {
            shapeOfLine = decoded(
                    group.shapes(),
                    from -> PackedNumbers.read(from, group.lines())
                            .allSmall(directory.shapes().size() + 1));
        }
        return shapeOfLine;
    }

    Column column(int column) {
        return directory.columns().get(column);
    }

    /** Returns the numbers of a column of the group; null if no line has one. */
    long[] numbers(int column) throws IOException {
        PackedNumbers values = numbers[column] == null ? packed(column) : null;
        if (values != null) {
            numbers[column] = values.all();
        }
        return numbers[column];
    }

    /** As {@link #numbers}, to be read one by one. */
    PackedNumbers packed(int column) throws IOException {
        Directory.Values values = packed[column] == null ? group.values().get(column) : null;
        if (values != null) {
            packed[column] = decoded(values.block(), from -> PackedNumbers.read(from, values.count()));
        }
        return packed[column];
    }

    /** Returns the texts of a column of the group; null if no line has one. */
    Texts texts(int column) throws IOException {
        Directory.Values values = texts[column] == null ? group.values().get(column) : null;
        if (values != null) {
            texts[column] = decoded(values.block(), from -> Texts.read(from, values.count()));
            if (isFollowing) {
                texts[column].codes();
            }
        }
        return texts[column];
    }

    /** Returns the rows of the rare values of a column with texts; null if none is listed. */
    RareRows rareRows(int column) throws IOException {
        Directory.Values values = group.values().get(column);
        return values == null
                ? null
                : OptionalBlock.read(
                        file,
                        values.rare(),
                        coverage,
                        from -> RareRows.read(from, texts[column].different(), values.count()));
    }

    /** Returns the filter of parts of the texts of a column; null for none, or if the texts are known already. */
    TextParts parts(int column) throws IOException {
        Directory.Values values = texts[column] == null ? group.values().get(column) : null;
        return values == null || values.parts() == null
                ? null
                : OptionalBlock.read(
                        file,
                        values.parts(),
                        coverage,
                        from -> TextParts.read(from, values.parts().length()));
    }

    /** Returns what the group contains, and where. */
    Directory.Group place() {
        return group;
    }

    /** Returns the lines that are kept unchanged; null if there are none. */
    Texts others() throws IOException {
        int count = group.lines() - group.rows();
        return group.others() == null ? null : decoded(group.others().texts(), from -> Texts.read(from, count));
    }

    /** Returns the times of the lines that are kept unchanged; null if there are none, or if they are not known. */
    long[] otherTimes() throws IOException {
        int count = group.lines() - group.rows();
        boolean areKnown = group.others() != null && group.others().times() != null;
        return areKnown
                ? decoded(
                        group.others().times(),
                        from -> PackedNumbers.read(from, count).all())
                : null;
    }

    /**
     * Declares, before the first line, that most lines are assembled, so that all values are read. Those of few lines are found
     * by the lines before them.
     */
    void followAll() {
        isFollowing = true;
        Arrays.setAll(followed, shape -> directory.shapes().get(shape).columns());
    }

    /** Returns the index of the value of the current line in a column. */
    int index(int column) {
        if (isFollowing) {
            return next[column];
        }
        if (shapesOfColumn[column] == null) {
            shapesOfColumn[column] = IntStream.range(0, seen.length)
                    .filter(shape -> has(directory.shapes().get(shape), column))
                    .toArray();
        }
        int index = 0;
        for (int shape : shapesOfColumn[column]) {
            index += seen[shape];
        }
        return index;
    }

    private static boolean has(Shape shape, int column) {
        return Arrays.stream(shape.columns()).anyMatch(each -> each == column);
    }

    /** Moves on to the line after the current one, which has this shape. */
    void pass(int shape) {
        seen[shape]++;
        for (int column : followed[shape]) {
            next[column]++;
        }
    }

    /** Returns the time of the current line, which has this shape. */
    long time(int shape) throws IOException {
        int column = directory.shapes().get(shape).columns()[0]; // the parser accepts no line that begins otherwise
        long[] times = numbers(column);
        int index = index(column);
        if (times == null || index >= times.length) {
            throw inconsistent(null);
        }
        return times[index];
    }

    /** Returns how many lines of the group have a value in a column. */
    int count(int column) {
        return group.count(column);
    }

    /** Returns whether all lines have a shape. */
    boolean hasOnlyShapes() {
        return group.rows() == group.lines();
    }

    /** Returns the times of all lines with a shape. */
    long[] times() throws IOException {
        return numbers(timeColumn());
    }

    /** As above, to be read one by one. */
    PackedNumbers packedTimes() throws IOException {
        return packed(timeColumn());
    }

    private int timeColumn() throws IOException {
        for (Shape shape : directory.shapes()) {
            int column = shape.columns()[0]; // the parser accepts no line that begins otherwise
            if (count(column) == group.rows()) {
                return column;
            }
        }
        throw inconsistent(null);
    }

    /** Makes a line the current one. */
    void moveTo(int line) throws IOException {
        int[] shapes = shapes();
        if (line < current) {
            Arrays.fill(seen, 0);
            Arrays.fill(next, 0);
            current = 0;
        }
        for (; current < line; current++) {
            if (shapes[current] > 0) {
                pass(shapes[current] - 1);
            }
        }
    }

    /** Puts the current line, which has this shape, together. */
    byte[] line(int shape) throws IOException {
        try {
            return together(directory.shapes().get(shape));
        } catch (IndexOutOfBoundsException e) {
            throw inconsistent(e);
        }
    }

    private byte[] together(Shape shape) throws IOException {
        byte[] bytes = new byte[shape.length() + TIME_LENGTH * shape.columns().length];
        int at = 0;
        for (int i = 0; i < shape.literals().size(); i++) {
            byte[] literal = shape.literals().get(i);
            bytes = room(bytes, at, literal.length);
            System.arraycopy(literal, 0, bytes, at, literal.length);
            at += literal.length;
            if (i < shape.columns().length) {
                int column = shape.columns()[i];
                bytes = room(bytes, at, valueLength(column, index(column)));
                at = value(column, index(column), bytes, at);
            }
        }
        return Arrays.copyOf(bytes, at);
    }

    private static byte[] room(byte[] bytes, int at, int more) {
        return bytes.length - at >= more ? bytes : Arrays.copyOf(bytes, Math.max(2 * bytes.length, at + more));
    }

    private int valueLength(int column, int index) throws IOException {
        return switch (column(column).kind()) {
            case TIME -> TIME_LENGTH;
            case INTEGER -> Digits.LONGEST_NUMBER;
            default -> {
                Texts values = required(column);
                int code = values.code(index);
                int length = values.to(code) - values.from(code);
                yield column(column).kind() == Kind.ID ? 2 * length : length;
            }
        };
    }

    private int value(int column, int index, byte[] to, int at) throws IOException {
        Kind kind = column(column).kind();
        if (kind.isNumber()) {
            PackedNumbers values = packed(column);
            if (values == null) {
                throw inconsistent(null);
            }
            long value = isFollowing ? numbers(column)[index] : values.get(index);
            return kind == Kind.TIME ? times.write(value, to, at) : Digits.number(value, to, at);
        }
        Texts values = required(column);
        int code = values.code(index);
        if (kind == Kind.ID) {
            return Ids.unpack(values.bytes(), values.from(code), values.to(code), to, at);
        }
        int length = values.to(code) - values.from(code);
        System.arraycopy(values.bytes(), values.from(code), to, at, length);
        return at + length;
    }

    private Texts required(int column) throws IOException {
        Texts values = texts(column);
        if (values == null) {
            throw inconsistent(null);
        }
        return values;
    }

    /** Returns the error for blocks that contradict each other, although their checksums are right. */
    SegmentException inconsistent(RuntimeException cause) {
        return file.damaged(group.shapes(), cause);
    }
}
