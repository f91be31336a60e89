package dev.graphema.segments;

import dev.graphema.format.JsonMember;
import dev.graphema.segments.line.Column;
import dev.graphema.segments.line.Kind;
import dev.graphema.segments.line.Shapes;
import java.util.Arrays;
import java.util.List;

/** The weights of the lines of a group that is being written. */
final class RowWeights {
    /** The column of usual weights. */
    static final Column COLUMN = new Column(JsonMember.WEIGHT.text(), Kind.INTEGER);

    private static final int ONE = 0;
    private static final int WEIGHED = 1;
    private static final int UNUSUAL = 2;

    private RowWeights() {}

    /**
     * Returns the weight of each line with a shape.
     *
     * @param shapeOfLine 0 for a line without a shape, else one more than the number of its shape
     * @param weights the values of the column of weights, in the order of their lines
     * @return null if a line with a weight has a trace, on which the error of an estimate depends, or a weight is no usual one
     */
    static long[] of(Shapes shapes, long[] shapeOfLine, int lines, long[] weights) {
        int[] ofShape = new int[shapes.shapes().size()];
        Arrays.setAll(
                ofShape,
                shape -> ofShape(Arrays.stream(shapes.shapes().get(shape).columns())
                        .mapToObj(shapes.columns()::get)
                        .toList()));
        long[] ofRows = new long[lines];
        int rows = 0;
        int next = 0;
        for (int line = 0; line < lines; line++) {
            int shape = (int) shapeOfLine[line] - 1;
            if (shape == Shapes.NONE) {
                continue;
            }
            long weight = ofShape[shape] == WEIGHED ? weights[next++] : 1;
            if (ofShape[shape] == UNUSUAL || weight < 1) {
                return null;
            }
            ofRows[rows++] = weight;
        }
        return Arrays.copyOf(ofRows, rows);
    }

    private static int ofShape(List<Column> columns) {
        boolean hasWeight = columns.contains(COLUMN);
        boolean hasOther = columns.stream().anyMatch(RowWeights::isOther);
        boolean hasTrace = columns.stream().anyMatch(column -> column.path().equals(JsonMember.TRACE.text()));
        return hasOther || hasWeight && hasTrace ? UNUSUAL : hasWeight ? WEIGHED : ONE;
    }

    /** Whether it is a weight that is no whole number. */
    private static boolean isOther(Column column) {
        return column.path().equals(COLUMN.path()) && !column.equals(COLUMN);
    }
}
