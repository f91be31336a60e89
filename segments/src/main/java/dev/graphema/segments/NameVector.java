package dev.graphema.segments;

import dev.graphema.condition.Name;
import dev.graphema.format.JsonMember;
import dev.graphema.segments.column.PackedNumbers;
import dev.graphema.segments.column.RareRows;
import dev.graphema.segments.column.Texts;
import dev.graphema.segments.line.Column;
import dev.graphema.segments.line.Kind;
import java.io.IOException;
import java.util.Arrays;

/**
 * The values of a name in all lines of a group. A line has a code: equal codes are equal values, and each is decoded once. For one
 * thread.
 */
final class NameVector {
    /** The code of a line without a value. */
    static final int MISSING = -1;

    /** The code of a line whose value only the complete event has. */
    static final int IN_EVENT = -2;

    /** The code of a line whose value is a number. */
    static final int NUMBER = -3;

    /** The lowest code. */
    static final int LOWEST = -3;

    /** Until it is replaced: that of a line whose value is in a column. */
    private static final int OF_COLUMN = -4;

    /** Represents a value that only the complete event has. */
    static final Object NOT_HERE = new Object();

    private final GroupReader group;
    private final ShapeReadings readings;
    private final int index;
    private final int[] numbersOfColumns;

    /** By line; null until they are loaded. */
    private int[] codes;

    /** The lines with a value, in order, if few lines have one; null if many have, or until they are loaded. */
    private int[] present;

    /** The numbers of lines with the code {@link #NUMBER}; null if there are none, or if they are read one by one. */
    private long[] numbers;

    /** The same, of all lines, if they are read one by one; else null. */
    private PackedNumbers singleNumbers;

    // By code: the value, and where it is. Two columns of a group have different codes.
    private final Object[] values;
    private final Column[] columns;
    private final Texts[] texts;
    private final int[] firstCodes;
    private final int constants;
    private final int lines;

    private NameVector(
            GroupReader group,
            ShapeReadings readings,
            int index,
            int[] numbersOfColumns,
            Column[] columns,
            Texts[] texts,
            int[] firstCodes,
            int different) {
        this.group = group;
        this.readings = readings;
        this.index = index;
        this.numbersOfColumns = numbersOfColumns;
        this.lines = group.lines();
        this.columns = columns;
        this.texts = texts;
        this.firstCodes = firstCodes;
        this.constants = different;
        this.values = new Object[different + 2];
        values[different] = false;
        values[different + 1] = true;
    }

    /**
     * Finds the values of a name; its codes must be {@linkplain #load loaded}.
     *
     * @param index the index of the name in the readings
     */
    static NameVector of(GroupReader group, ShapeReadings readings, int index) throws IOException {
        int[] columns = new int[readings.shapes()];
        int count = 0;
        for (int shape = 0; shape < readings.shapes(); shape++) {
            int column = readings.of(shape).values()[index].column();
            boolean isNew = column >= 0
                    && Arrays.stream(columns, 0, count).noneMatch(known -> known == column)
                    && group.count(column) > 0;
            if (isNew) {
                columns[count++] = column;
            }
        }
        columns = Arrays.copyOf(columns, count);
        Column[] of = new Column[count];
        Texts[] texts = new Texts[count];
        int[] firstCodes = new int[count];
        int different = 0;
        for (int i = 0; i < count; i++) {
            of[i] = group.column(columns[i]);
            firstCodes[i] = different;
            if (!of[i].kind().isNumber()) {
                texts[i] = group.texts(columns[i]);
                different += texts[i].different();
            }
        }
        return new NameVector(group, readings, index, columns, of, texts, firstCodes, different);
    }

    /**
     * Reads the codes of the lines.
     *
     * @param isForFew whether few lines are read, so that their codes are read one by one where possible
     */
    NameVector load(boolean isForFew) throws IOException {
        if (codes != null || isForFew && isTextOfEachLine()) {
            return this;
        }
        if (isForFew && isNumberOfEachLine()) {
            singleNumbers = group.packed(numbersOfColumns[0]);
            return this;
        }
        if (isForFew && present() != null) {
            return this;
        }
        for (Texts each : texts) {
            if (each != null) {
                each.codes();
            }
        }
        if (isTextOfEachLine()) {
            codes = texts[0].codes();
        } else if (isNumberOfEachLine()) {
            numbers = group.numbers(numbersOfColumns[0]);
            codes = new int[lines];
            Arrays.fill(codes, NUMBER);
        } else {
            codes = new int[lines];
            read();
        }
        return this;
    }

    /** Returns whether each line has a value in the one column. */
    private boolean isOfEachLine() {
        return columns.length == 1
                && group.count(numbersOfColumns[0]) == lines
                && !readings.isAnywhere(index, NamedValue.Place.EVENT);
    }

    /** Returns whether each line has a text in the one column, so that all codes are those of the column. */
    boolean isTextOfEachLine() {
        return isOfEachLine() && texts[0] != null;
    }

    private boolean isNumberOfEachLine() {
        return isOfEachLine() && columns[0].kind() == Kind.INTEGER;
    }

    /** Returns the codes by line if each line has a text, or the numbers if each line has a whole number; else null. */
    PackedNumbers packed() throws IOException {
        if (isTextOfEachLine()) {
            return texts[0].packedCodes();
        }
        return isNumberOfEachLine() ? group.packed(numbersOfColumns[0]) : null;
    }

    /** Returns whether a line can have a value. */
    boolean isAnywhere() {
        return columns.length > 0
                || readings.isAnywhere(index, NamedValue.Place.EVENT)
                || readings.isAnywhere(index, NamedValue.Place.SHAPE);
    }

    /** Returns the lines that have a value, in order, if few have one, and their values are in one column; null if not. */
    int[] present() throws IOException {
        if (present == null && arePresentFew()) {
            boolean[] isPresent = new boolean[readings.shapes()];
            for (int shape = 0; shape < isPresent.length; shape++) {
                isPresent[shape] = readings.of(shape).values()[index].column() == numbersOfColumns[0];
            }
            present = group.linesOf(isPresent, group.count(numbersOfColumns[0]));
            singleNumbers = texts[0] == null ? group.packed(numbersOfColumns[0]) : null;
        }
        return present;
    }

    private boolean arePresentFew() {
        if (columns.length != 1 || columns[0].kind() == Kind.TIME || !areFew(group.count(numbersOfColumns[0]))) {
            return false;
        }
        for (int shape = 0; shape < readings.shapes(); shape++) {
            NamedValue value = readings.of(shape).values()[index];
            boolean isHere = place(numbersOfColumns[0], readings.columns(shape)) >= 0;
            // Of another column, the group has no values.
            if (value.place() == NamedValue.Place.EVENT
                    || value.place() == NamedValue.Place.SHAPE
                    || isHere != (value.column() == numbersOfColumns[0])) {
                return false;
            }
        }
        return true;
    }

    private boolean areFew(int count) {
        return GroupVectors.areFew(count, lines);
    }

    /** Returns the lines of rare values if each line has a text; null if there are none. */
    RareRows rareRows() throws IOException {
        return isTextOfEachLine() ? group.rareRows(numbersOfColumns[0]) : null;
    }

    /** Returns whether all values are texts of columns, or are missing. */
    boolean hasTextsOnly() {
        return Arrays.stream(columns).noneMatch(column -> column.kind().isNumber())
                && !readings.isAnywhere(index, NamedValue.Place.EVENT)
                && !readings.isAnywhere(index, NamedValue.Place.SHAPE);
    }

    private void read() throws IOException {
        if (columns.length == 1 && texts[0] != null) {
            readOne(numbersOfColumns[0]);
            return;
        }
        long[][] ofColumn = new long[columns.length][];
        for (int i = 0; i < columns.length; i++) {
            if (columns[i].kind() == Kind.INTEGER) {
                ofColumn[i] = group.numbers(numbersOfColumns[i]);
                numbers = new long[lines];
            }
        }
        int[] placeOfShape = new int[readings.shapes()];
        int[] otherwise = new int[readings.shapes()];
        int[][] present = new int[readings.shapes()][];
        for (int shape = 0; shape < placeOfShape.length; shape++) {
            NamedValue value = readings.of(shape).values()[index];
            placeOfShape[shape] = place(value.column(), numbersOfColumns);
            otherwise[shape] = otherwise(value);
            // Also of a shape whose value is not simply that of the column.
            present[shape] = Arrays.stream(readings.columns(shape))
                    .map(column -> place(column, numbersOfColumns))
                    .filter(place -> place >= 0)
                    .toArray();
        }
        int[] next = new int[columns.length];
        for (int line = 0; line < codes.length; line++) {
            int shape = group.shape(line);
            codes[line] = shape < 0 ? MISSING : otherwise[shape];
            for (int i = 0; shape >= 0 && i < present[shape].length; i++) {
                int place = present[shape][i];
                int position = next[place]++;
                if (place != placeOfShape[shape]) {
                    continue;
                }
                if (texts[place] != null) {
                    codes[line] = firstCodes[place] + texts[place].code(position);
                } else if (ofColumn[place] != null) {
                    codes[line] = NUMBER;
                    numbers[line] = ofColumn[place][position];
                } else {
                    codes[line] = IN_EVENT; // a time, which is a text for whoever asks
                }
            }
        }
    }

    /** The usual case: the name has one column, of texts. */
    private void readOne(int column) throws IOException {
        int[] ofColumn = texts[0].codes();
        boolean[] isPresent = new boolean[readings.shapes()];
        int[] otherwise = new int[readings.shapes()];
        for (int shape = 0; shape < otherwise.length; shape++) {
            isPresent[shape] = place(column, readings.columns(shape)) >= 0;
            otherwise[shape] = otherwise(readings.of(shape).values()[index]);
        }
        int next = 0;
        for (int line = 0; line < lines; line++) {
            int shape = group.shape(line);
            int code = shape < 0 ? MISSING : otherwise[shape];
            if (shape >= 0 && isPresent[shape]) {
                int own = ofColumn[next++];
                code = code == OF_COLUMN ? own : code;
            }
            codes[line] = code;
        }
    }

    /** Returns the code of a shape whose value is in no column. */
    private int otherwise(NamedValue value) {
        return switch (value.place()) {
            case COLUMN -> OF_COLUMN;
            case SHAPE -> value.constant() ? constants + 1 : constants;
            case EVENT -> IN_EVENT;
            case NOWHERE -> MISSING;
        };
    }

    private static int place(int column, int[] columns) {
        for (int i = 0; i < columns.length; i++) {
            if (columns[i] == column) {
                return i;
            }
        }
        return -1;
    }

    int lines() {
        return lines;
    }

    /** Returns the number of codes that are not negative. */
    int different() {
        return values.length;
    }

    /** Returns the codes by line if they are loaded for many of them; else null. Must not be changed. */
    int[] codes() {
        return codes;
    }

    /** Returns the numbers by line if there are any and all are read, of which only those of lines with the code {@link #NUMBER} count. */
    long[] numbers() {
        return numbers;
    }

    /** Returns the number of codes of texts, which are the first ones. */
    int differentTexts() {
        return constants;
    }

    /** Returns the number of codes that lines can have and that are not negative. */
    int possible() {
        return readings.isAnywhere(index, NamedValue.Place.SHAPE) ? values.length : constants;
    }

    /** Returns the code of a line. */
    int code(int line) {
        if (codes != null) {
            return codes[line];
        }
        int place = placeOfLine(line);
        if (place < 0) {
            return MISSING;
        }
        return texts[0] == null ? NUMBER : texts[0].code(place);
    }

    /** Returns the index of the value of a line in the one column; a negative number if it has none. */
    private int placeOfLine(int line) {
        return present == null ? line : Arrays.binarySearch(present, line);
    }

    /** Returns the number of a line with the code {@link #NUMBER}. */
    long number(int line) {
        return numbers == null ? singleNumbers.get(placeOfLine(line)) : numbers[line];
    }

    /** Returns whether a line can have the code {@link #NUMBER}. */
    boolean hasNumbers() {
        return Arrays.stream(columns).anyMatch(column -> column.kind() == Kind.INTEGER);
    }

    /** Returns whether each line has a number, and all are read. */
    boolean hasNumbersOnly() {
        return numbers != null && isOfEachLine();
    }

    /** Returns the value of a line; null for none. */
    Object value(int line) {
        int code = code(line);
        return switch (code) {
            case MISSING -> null;
            case IN_EVENT -> NOT_HERE;
            case NUMBER -> number(line);
            default -> valueOf(code);
        };
    }

    /** Returns whether a code that is not negative is an id other than this one. */
    boolean isOtherId(int code, byte[] id) {
        for (int place = 0; place < columns.length; place++) {
            int own = code - firstCodes[place];
            if (texts[place] != null && own >= 0 && own < texts[place].different()) {
                return columns[place].kind() == Kind.ID
                        && !Arrays.equals(
                                texts[place].bytes(), texts[place].from(own), texts[place].to(own), id, 0, id.length);
            }
        }
        return false;
    }

    /** Returns whether the value of a code that is not negative is a list. */
    boolean isList(int code) {
        if (code >= constants) {
            return false;
        }
        int place = place(code);
        int own = code - firstCodes[place];
        return columns[place].kind() == Kind.JSON
                && texts[place].to(own) > texts[place].from(own)
                && texts[place].bytes()[texts[place].from(own)] == '[';
    }

    /** Returns the index of the column of the text with a code. */
    private int place(int code) {
        int place = columns.length - 1;
        while (firstCodes[place] > code || texts[place] == null) {
            place--;
        }
        return place;
    }

    /** Returns the value of a code that is not negative. */
    Object valueOf(int code) {
        if (values[code] == null) {
            int place = place(code);
            values[code] = value(place, code - firstCodes[place]);
        }
        return values[code];
    }

    private Object value(int place, int own) {
        Name name = readings.names().get(index);
        boolean isOfFailure = name.attribute() != null && columns[place].path().equals(JsonMember.FAILURE.text());
        return isOfFailure
                ? ColumnValue.ofFailure(name, texts[place], own, readings.lineShape())
                : ColumnValue.of(columns[place], texts[place], own);
    }
}
