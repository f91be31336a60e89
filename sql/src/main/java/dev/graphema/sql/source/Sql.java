package dev.graphema.sql.source;

import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;

/**
 * A piece of SQL with values for its parameters: no value is ever a part of the text. Immutable.
 *
 * @param text with a question mark for each parameter
 * @param values as the driver takes them
 */
record Sql(String text, List<Object> values) {
    static final Sql TRUE = of("true");
    static final Sql FALSE = of("false");

    static Sql of(String text, Object... values) {
        return new Sql(text, List.of(values));
    }

    /** Returns the pieces with a word between them, each in parentheses. */
    static Sql joined(List<Sql> parts, String word) {
        return new Sql(
                parts.stream().map(part -> "(" + part.text + ")").collect(Collectors.joining(" " + word + " ")),
                parts.stream().flatMap(part -> part.values.stream()).toList());
    }

    static Sql all(List<Sql> parts) {
        return parts.isEmpty() ? TRUE : parts.size() == 1 ? parts.get(0) : joined(parts, "and");
    }

    static Sql any(List<Sql> parts) {
        return parts.isEmpty() ? FALSE : parts.size() == 1 ? parts.get(0) : joined(parts, "or");
    }

    /** Returns this piece followed by another one. */
    Sql then(Sql other) {
        List<Object> both = new ArrayList<>(values);
        both.addAll(other.values);
        return new Sql(text + other.text, List.copyOf(both));
    }

    Sql then(String more) {
        return new Sql(text + more, values);
    }

    void bind(PreparedStatement statement) throws SQLException {
        for (int i = 0; i < values.size(); i++) {
            statement.setObject(i + 1, values.get(i));
        }
    }

    /** Returns the text and the values, as it is explained. */
    @Override
    public String toString() {
        return values.isEmpty() ? text : text + " with " + values;
    }
}
