package dev.graphema.sql.table;

import java.math.BigDecimal;
import java.util.List;
import java.util.function.Function;
import java.util.regex.Pattern;

/**
 * How statements reach the values of fields in rows whose column {@code plain} is true. A value is a number or a text that the database has exactly,
 * or another one. Immutable and thread-safe.
 */
public interface FieldColumns {
    /** Names without quotes, and without dots, which separate groups. */
    Pattern PLAIN = Pattern.compile("[A-Za-z_][A-Za-z0-9_-]*");

    int MOST_CHARACTERS = 100;

    /** Reaches no field. */
    FieldColumns NONE = new FieldColumns() {
        @Override
        public boolean has(String field) {
            return false;
        }

        @Override
        public Sql either(String field, Function<String, Sql> ofNumber, Function<String, Sql> ofText, boolean ofOther) {
            throw new IllegalStateException(field + " has no column");
        }

        @Override
        public Object bound(BigDecimal number) {
            return null;
        }
    };

    /** Returns whether a name of a field can be a part of a statement, in quotes. */
    static boolean isPlain(String field) {
        return field.length() <= MOST_CHARACTERS && PLAIN.matcher(field).matches();
    }

    /** Returns whether the values of a field can be reached. */
    boolean has(String field);

    /**
     * Returns a condition about the value of a field, which is false if there is none, and never null.
     *
     * @param ofNumber returns the condition for a number, given its expression, which is not null
     * @param ofText the same for a text
     * @param ofOther the result for another value
     */
    Sql either(String field, Function<String, Sql> ofNumber, Function<String, Sql> ofText, boolean ofOther);

    /** Returns the parameter that numbers are compared with; null if the comparison would not be exact. */
    Object bound(BigDecimal number);

    /** Returns the column for counts by a field; null if statements cannot count by it. */
    default GroupColumn counted(String field) {
        return null;
    }

    /** Returns the column for the numbers of a field; null if there is none. Other values are undecided. */
    default GroupColumn measured(String field) {
        return null;
    }

    /** Returns the condition that a column has a value for which another condition is true. */
    static Sql present(String column, Function<String, Sql> condition) {
        return Sql.all(List.of(Sql.of(column + " is not null"), condition.apply(column)));
    }
}
