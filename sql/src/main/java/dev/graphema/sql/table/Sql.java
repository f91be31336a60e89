package dev.graphema.sql.table;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;

/**
 * A piece of SQL with values for its parameters: no value is ever a part of the text. Immutable.
 *
 * @param text with a question mark for each parameter
 * @param values as the driver takes them
 */
public record Sql(String text, List<Object> values) {
    public static final Sql TRUE = of("true");
    public static final Sql FALSE = of("false");

    public static Sql of(String text, Object... values) {
        return new Sql(text, List.of(values));
    }

    /** Returns what is true if all pieces are. */
    public static Sql all(List<Sql> parts) {
        return parts.contains(FALSE) ? FALSE : joined(parts, TRUE, " and ");
    }

    /** Returns what is true if one of the pieces is. */
    public static Sql any(List<Sql> parts) {
        return parts.contains(TRUE) ? TRUE : joined(parts, FALSE, " or ");
    }

    /** Returns what is true if a piece, which is never null, is false. */
    public static Sql not(Sql part) {
        return part.equals(TRUE)
                ? FALSE
                : part.equals(FALSE) ? TRUE : of("not (").then(part).then(")");
    }

    /** @param neutral what changes nothing, and is left out */
    private static Sql joined(List<Sql> parts, Sql neutral, String word) {
        List<Sql> left = parts.stream().filter(part -> !part.equals(neutral)).toList();
        if (left.size() < 2) {
            return left.isEmpty() ? neutral : left.get(0);
        }
        return new Sql(
                left.stream().map(Sql::asPart).collect(Collectors.joining(word)),
                left.stream().flatMap(part -> part.values.stream()).toList());
    }

    private String asPart() {
        return text.contains(" and ") || text.contains(" or ") ? "(" + text + ")" : text;
    }

    /** Returns this piece followed by another one. */
    public Sql then(Sql other) {
        List<Object> both = new ArrayList<>(values);
        both.addAll(other.values);
        return new Sql(text + other.text, List.copyOf(both));
    }

    public Sql then(String more) {
        return new Sql(text + more, values);
    }

    /** Returns the text and the values, as it is explained. */
    @Override
    public String toString() {
        return values.isEmpty() ? text : text + " with " + values;
    }
}
