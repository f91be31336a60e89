package dev.graphema.segments;

import com.github.luben.zstd.ZstdException;
import dev.graphema.format.Rfc3339;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.segments.column.ByteReader;
import dev.graphema.segments.column.Numbers;
import dev.graphema.segments.column.Texts;
import dev.graphema.segments.file.Directory;
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

/** The values of a group, decoded when they are needed, and its lines, put together again. For one thread. */
final class GroupReader {
    private static final int TIME_LENGTH = 30;

    private final CoverageBuilder coverage;
    private final SegmentFile file;
    private final Directory directory;
    private final Directory.Group group;
    private final long[] shapeOfLine;
    private final Map<Integer, long[]> numbers = new HashMap<>();
    private final Map<Integer, Texts> texts = new HashMap<>();
    private final Rfc3339 times = new Rfc3339();

    /** @param coverage receives the bytes that are read */
    GroupReader(SegmentFile file, Directory.Group group, CoverageBuilder coverage) throws IOException {
        this.coverage = coverage;
        this.file = file;
        this.directory = file.contents();
        this.group = group;
        this.shapeOfLine = decoded(group.shapes(), from -> Numbers.read(from, group.lines()));
        int shapes = directory.shapes().size();
        for (long shape : shapeOfLine) {
            if (shape < 0 || shape > shapes) {
                throw file.damaged(group.shapes(), null);
            }
        }
    }

    /** Decodes the bytes of a block. */
    private interface Decoder<T> {
        T decode(ByteReader from);
    }

    private <T> T decoded(Directory.Block block, Decoder<T> decoder) throws IOException {
        ByteReader bytes = file.read(block);
        coverage.bytes(block.length());
        try {
            return decoder.decode(bytes);
        } catch (IndexOutOfBoundsException | ArithmeticException | NegativeArraySizeException | ZstdException e) {
            throw file.damaged(block, e);
        }
    }

    int lines() {
        return group.lines();
    }

    /** Returns the number of the shape of a line; -1 for one that is kept as it is. */
    int shape(int line) {
        return (int) shapeOfLine[line] - 1;
    }

    Column column(int column) {
        return directory.columns().get(column);
    }

    /** Returns the numbers of a column of the group; null if no line has one. */
    long[] numbers(int column) throws IOException {
        long[] known = numbers.get(column);
        Directory.Values values = group.values().get(column);
        if (known == null && values != null) {
            known = decoded(values.block(), from -> Numbers.read(from, values.count()));
            numbers.put(column, known);
        }
        return known;
    }

    /** Returns the texts of a column of the group; null if no line has one. */
    Texts texts(int column) throws IOException {
        Texts known = texts.get(column);
        Directory.Values values = group.values().get(column);
        if (known == null && values != null) {
            known = decoded(values.block(), from -> Texts.read(from, values.count()));
            texts.put(column, known);
        }
        return known;
    }

    /** Returns the lines that are kept as they are; null if there are none. */
    Texts others() throws IOException {
        int count = group.lines() - group.rows();
        return group.others() == null ? null : decoded(group.others(), from -> Texts.read(from, count));
    }

    /**
     * Puts a line together.
     *
     * @param seen how many lines of each shape come before it in the group
     */
    byte[] line(int line, int[] seen) throws IOException {
        try {
            return together(line, seen);
        } catch (IndexOutOfBoundsException e) {
            throw file.damaged(group.shapes(), e); // checksums are right, but blocks contradict each other
        }
    }

    private byte[] together(int line, int[] seen) throws IOException {
        Shape shape = directory.shapes().get(shape(line));
        byte[] bytes = new byte[shape.length() + TIME_LENGTH * shape.columns().length];
        int at = 0;
        for (int i = 0; i < shape.literals().size(); i++) {
            byte[] literal = shape.literals().get(i);
            bytes = room(bytes, at, literal.length);
            System.arraycopy(literal, 0, bytes, at, literal.length);
            at += literal.length;
            if (i < shape.columns().length) {
                int column = shape.columns()[i];
                int index = index(column, seen);
                bytes = room(bytes, at, valueLength(column, index));
                at = value(column, index, bytes, at);
            }
        }
        return Arrays.copyOf(bytes, at);
    }

    private static byte[] room(byte[] bytes, int at, int more) {
        return bytes.length - at >= more ? bytes : Arrays.copyOf(bytes, Math.max(2 * bytes.length, at + more));
    }

    /** Returns the index of the next value of a column, after so many lines of each shape. */
    private int index(int column, int[] seen) {
        int index = 0;
        for (int shape = 0; shape < seen.length; shape++) {
            if (seen[shape] > 0 && has(directory.shapes().get(shape), column)) {
                index += seen[shape];
            }
        }
        return index;
    }

    private static boolean has(Shape shape, int column) {
        for (int each : shape.columns()) {
            if (each == column) {
                return true;
            }
        }
        return false;
    }

    private int valueLength(int column, int index) throws IOException {
        return switch (column(column).kind()) {
            case TIME -> TIME_LENGTH;
            case INTEGER -> Digits.LONGEST_NUMBER;
            default -> {
                Texts values = required(column);
                int code = values.code(index);
                yield values.to(code) - values.from(code);
            }
        };
    }

    private int value(int column, int index, byte[] to, int at) throws IOException {
        Kind kind = column(column).kind();
        if (kind.isNumber()) {
            long[] values = numbers(column);
            if (values == null || index >= values.length) {
                throw inconsistent();
            }
            return kind == Kind.TIME ? times.write(values[index], to, at) : Digits.number(values[index], to, at);
        }
        Texts values = required(column);
        int code = values.code(index);
        int length = values.to(code) - values.from(code);
        System.arraycopy(values.bytes(), values.from(code), to, at, length);
        return at + length;
    }

    private Texts required(int column) throws IOException {
        Texts values = texts(column);
        if (values == null) {
            throw inconsistent();
        }
        return values;
    }

    private SegmentException inconsistent() {
        return file.damaged(group.shapes(), null);
    }

    /** Returns the error for values that are not where others say. */
    SegmentException inconsistent(RuntimeException cause) {
        return file.damaged(group.shapes(), cause);
    }
}
