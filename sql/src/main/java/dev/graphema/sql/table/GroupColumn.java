package dev.graphema.sql.table;

import dev.graphema.condition.Name;
import java.util.function.Function;

/**
 * An expression by whose values events are grouped.
 *
 * @param expression without parameters, so that a database sees that what it groups by is what it selects; its values are texts or null
 * @param undecided true for rows whose events must be examined instead
 * @param value returns the value of an event from that of the expression; receives and returns null for none
 */
public record GroupColumn(String expression, Sql undecided, Function<String, Object> value) {
    /** Returns the column for the values of a name; null if statements cannot group by them. */
    static GroupColumn of(Name name, FieldColumns fields) {
        if (name.attribute() == null) {
            return fields.counted(name.field());
        }
        String column = EventColumns.counted(name.attribute());
        return column == null ? null : ofTexts(column);
    }

    /** Returns a column of texts that are the values. */
    public static GroupColumn ofTexts(String expression) {
        return new GroupColumn(expression, Sql.FALSE, text -> text);
    }
}
