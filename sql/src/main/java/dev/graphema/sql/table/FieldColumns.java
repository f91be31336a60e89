package dev.graphema.sql.table;

import java.math.BigDecimal;
import java.util.regex.Pattern;

/**
 * How statements reach the values of fields in rows whose column {@code plain} is true. Expressions and conditions have no parameters; conditions
 * are two-valued. Immutable and thread-safe.
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
        public String number(String field) {
            throw new IllegalStateException(field + " has no column");
        }

        @Override
        public String text(String field) {
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

    /** Returns whether there are expressions for the values of a field. */
    boolean has(String field);

    /** Returns the expression for the exact value of a field if it is a number; for all others, it is null. */
    String number(String field);

    /** Returns the expression for the exact value of a field if it is a text; for all others, it is null. */
    String text(String field);

    /** Returns the condition that a field has a value for which neither expression has one. */
    default Sql others(String field) {
        return Sql.FALSE;
    }

    /**
     * Returns the two-valued condition that an expression has a value, and that a comparison with it is true.
     *
     * @param comparison an operator and a question mark
     */
    default Sql compared(String expression, String comparison, Object parameter) {
        return Sql.of(expression + " is not null and " + expression + comparison, parameter);
    }

    /** Returns the parameter that numbers of a field are compared with; null if the comparison would not be exact. */
    Object bound(BigDecimal number);

    /** Returns the column for counts by a field; null if statements cannot count by it. */
    default GroupColumn counted(String field) {
        return null;
    }

    /** Returns the column for the numbers of a field; null if there is none. Other values are undecided. */
    default GroupColumn measured(String field) {
        return null;
    }
}
