package dev.graphema.segments;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Expression;
import dev.graphema.condition.Name;
import dev.graphema.event.Attribute;
import dev.graphema.lines.json.LineFilter;
import dev.graphema.segments.column.TextParts;
import dev.graphema.segments.line.Kind;
import java.io.IOException;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;

/**
 * The texts that values of all events of an answer contain, by which groups with texts of many kinds are left before these are read. Immutable.
 */
final class RequiredTexts {
    /** The attributes that an event has only if they are written: others have a usual value, such as a weight of 1. */
    private static final Set<Attribute> TEXTS =
            EnumSet.of(Attribute.SERVICE, Attribute.INSTANCE, Attribute.LOGGER, Attribute.MESSAGE, Attribute.THREAD);

    private final List<Required> all = new ArrayList<>();

    /** @param index the index of the name in the readings */
    private record Required(int index, LineFilter filter) {}

    RequiredTexts(Condition where, ShapeReadings readings) {
        gather(where.expression(), readings);
    }

    private void gather(Expression expression, ShapeReadings readings) {
        if (expression instanceof Expression.And and) {
            and.parts().forEach(part -> gather(part, readings));
        } else if (expression instanceof Expression.Comparison) {
            Condition part = Condition.of(expression);
            Name name = part.names().iterator().next();
            LineFilter filter = LineFilter.of(part);
            int index = readings.names().indexOf(name);
            boolean isInColumns = index >= 0
                    && (name.attribute() == null || TEXTS.contains(name.attribute()))
                    && !readings.isAnywhere(index, NamedValue.Place.EVENT)
                    && !readings.isAnywhere(index, NamedValue.Place.SHAPE);
            if (isInColumns && filter != LineFilter.ALL) {
                all.add(new Required(index, filter));
            }
        }
    }

    /** Returns whether no line of a group has one of the texts. */
    boolean isAnyMissing(GroupReader group, ShapeReadings readings) throws IOException {
        for (Required each : all) {
            if (isMissing(each, group, readings)) {
                return true;
            }
        }
        return false;
    }

    private static boolean isMissing(Required required, GroupReader group, ShapeReadings readings) throws IOException {
        for (int shape = 0; shape < readings.shapes(); shape++) {
            int column = readings.of(shape).values()[required.index].column();
            if (column >= 0 && group.count(column) > 0 && mayHave(column, required.filter, group)) {
                return false;
            }
        }
        return true;
    }

    private static boolean mayHave(int column, LineFilter filter, GroupReader group) throws IOException {
        Kind kind = group.column(column).kind();
        TextParts parts = kind == Kind.TEXT || kind == Kind.JSON ? group.parts(column) : null;
        return parts == null || filter.mayMatchAny(parts::mayContain);
    }
}
