package dev.graphema.sql.table;

import dev.graphema.condition.Condition;
import dev.graphema.query.source.CoverageBuilder;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/** Executes statements that read a table of events. Its {@code toString} names the table in reports. Thread-safe. */
public interface Statements {
    /** Returns the table as statements name it. */
    String table();

    /**
     * Returns the expression for a time in seconds since 1970, with or without fractions of them.
     *
     * @param time an expression for a time
     */
    default String seconds(String time) {
        return "extract(epoch from " + time + ")";
    }

    /**
     * Returns how statements reach fields; they reach none by default.
     *
     * @throws IOException if the table cannot be read
     */
    default FieldColumns fields() throws IOException {
        return FieldColumns.NONE;
    }

    /**
     * Returns the condition that the event of a row matches a condition exactly, for engines that call this library; null, as by default,
     * for others.
     */
    default Sql matches(Condition condition) {
        return null;
    }

    /**
     * Executes a statement.
     *
     * @param coverage decides whether to go on
     * @return null if it was stopped before there was an answer
     * @throws IOException if it cannot be executed
     */
    ReturnedRows ask(Sql asked, CoverageBuilder coverage) throws IOException;

    /** Returns the number in the only column of the only row; 0 if it was stopped. */
    default long number(Sql asked, CoverageBuilder coverage) throws IOException {
        List<Long> numbers = numbers(asked, 1, coverage);
        return numbers.isEmpty() ? 0 : numbers.get(0);
    }

    /**
     * Returns the numbers of the only row; none if it was stopped.
     *
     * @param columns how many there are
     */
    default List<Long> numbers(Sql asked, int columns, CoverageBuilder coverage) throws IOException {
        try (ReturnedRows rows = ask(asked, coverage)) {
            List<Long> numbers = new ArrayList<>();
            if (rows != null && rows.next()) {
                for (int i = 1; i <= columns; i++) {
                    numbers.add(rows.number(i));
                }
            }
            return numbers;
        }
    }
}
