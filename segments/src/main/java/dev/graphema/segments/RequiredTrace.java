package dev.graphema.segments;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Expression;
import dev.graphema.condition.Name;
import dev.graphema.condition.Operator;
import dev.graphema.event.Attribute;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.segments.column.IdFilter;
import dev.graphema.segments.file.Directory;
import dev.graphema.segments.file.OptionalBlock;
import dev.graphema.segments.file.SegmentFile;
import java.io.IOException;
import java.util.HexFormat;
import java.util.regex.Pattern;

/** The trace that all events of an answer have, by which most groups are left before anything else of them is read. */
final class RequiredTrace {
    private static final Pattern ID = Pattern.compile("[0-9a-f]{16}|[0-9a-f]{32}");

    private RequiredTrace() {}

    /**
     * Returns the bytes of the trace that a condition requires.
     *
     * @return null if there is none, or a shape may have it elsewhere than in the column of traces
     */
    static byte[] of(Condition where, ShapeReadings readings) {
        int index = readings.names().indexOf(ShapeReadings.TRACE);
        return index < 0 || readings.isAnywhere(index, NamedValue.Place.EVENT) ? null : required(where.expression());
    }

    private static byte[] required(Expression expression) {
        if (expression instanceof Expression.And and) {
            for (Expression part : and.parts()) {
                byte[] id = required(part);
                if (id != null) {
                    return id;
                }
            }
            return null;
        }
        boolean isOfTrace = expression instanceof Expression.Comparison
                && Condition.of(expression).names().contains(ShapeReadings.TRACE);
        return isOfTrace ? equal(expression, ShapeReadings.TRACE) : null;
    }

    /** Returns the bytes of the id to which a comparison of a name asks to be equal; null if that is not what it asks. */
    static byte[] equal(Expression expression, Name name) {
        boolean isOfId = name.attribute() == Attribute.TRACE
                || name.attribute() == Attribute.SPAN
                || name.attribute() == Attribute.PARENT;
        return isOfId
                        && expression instanceof Expression.Comparison comparison
                        && comparison.operator() == Operator.EQUAL
                        && ID.matcher(comparison.literal().source()).matches()
                ? HexFormat.of().parseHex(comparison.literal().source())
                : null;
    }

    /**
     * Returns whether no event of a group has a trace.
     *
     * @param coverage receives the bytes that are read, and damage
     */
    static boolean isMissing(byte[] trace, Directory.Group group, SegmentFile file, CoverageBuilder coverage)
            throws IOException {
        if (group.traces() == null) {
            return true;
        }
        int length = group.traces().length();
        IdFilter filter = OptionalBlock.read(file, group.traces(), coverage, from -> IdFilter.read(from, length));
        return filter != null && !filter.mayContain(trace);
    }
}
