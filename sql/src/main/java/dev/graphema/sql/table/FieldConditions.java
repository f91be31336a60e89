package dev.graphema.sql.table;

import dev.graphema.condition.Accepted;
import dev.graphema.condition.Name;
import dev.graphema.condition.Range;
import dev.graphema.condition.Split.Precision;
import dev.graphema.condition.TextRule;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;

/**
 * Conditions on fields in SQL. A field can have values of any type, of which columns have some: rows with another one are undecided, and
 * their events are looked at. As a fold, returns the condition for those rows. Immutable.
 */
final class FieldConditions implements SqlFold {
    private final FieldColumns columns;

    FieldConditions(FieldColumns columns) {
        this.columns = columns;
    }

    /** Returns how precisely the existence of a field is decided. */
    Precision precision(String field) {
        return columns.has(field) ? Precision.EXACT : Precision.NONE;
    }

    /** Returns how precisely a value is decided in all rows but the undecided ones. */
    Precision precision(String field, Accepted accepted) {
        if (!columns.has(field) || !isComparable(accepted.numbers())) {
            return Precision.NONE;
        }
        return accepted.numbers() != null ? Precision.EXACT : SqlConditions.precision(accepted.texts());
    }

    private boolean isComparable(Range<BigDecimal> range) {
        return range == null
                || Stream.of(range.low(), range.high())
                        .filter(Objects::nonNull)
                        .allMatch(each -> columns.bound(each) != null);
    }

    Sql exists(String field) {
        return Sql.any(List.of(
                Sql.of(columns.number(field) + " is not null"),
                Sql.of(columns.text(field) + " is not null"),
                columns.others(field)));
    }

    Sql has(String field, Accepted accepted) {
        Sql numbers = accepted.numbers() == null ? Sql.FALSE : numbers(columns.number(field), accepted.numbers());
        Sql texts = isDecided(accepted.texts()) ? SqlConditions.text(columns.text(field), accepted.texts()) : Sql.FALSE;
        return Sql.any(List.of(numbers, texts));
    }

    private static boolean isDecided(TextRule rule) {
        return SqlConditions.precision(rule) != Precision.NONE;
    }

    private Sql numbers(String column, Range<BigDecimal> range) {
        List<Sql> parts = new ArrayList<>();
        if (range.low() != null) {
            parts.add(columns.compared(column, range.includesLow() ? " >= ?" : " > ?", columns.bound(range.low())));
        }
        if (range.high() != null) {
            parts.add(columns.compared(column, range.includesHigh() ? " <= ?" : " < ?", columns.bound(range.high())));
        }
        return Sql.all(parts);
    }

    @Override
    public Sql all(List<Sql> undecided) {
        return Sql.any(undecided.stream().distinct().toList());
    }

    @Override
    public Sql any(List<Sql> undecided) {
        return all(undecided);
    }

    @Override
    public Sql not(Sql undecided) {
        return undecided;
    }

    @Override
    public Sql present(Name name) {
        return Sql.FALSE;
    }

    @Override
    public Sql value(Name name, Accepted accepted) {
        String field = name.field();
        if (field == null) {
            return Sql.FALSE;
        }
        return Sql.any(List.of(
                columns.others(field),
                isDecided(accepted.texts()) ? Sql.FALSE : Sql.of(columns.text(field) + " is not null"),
                accepted.acceptsNumeral() ? Sql.of(columns.number(field) + " is not null") : Sql.FALSE));
    }

    @Override
    public Sql text(TextRule rule) {
        return Sql.FALSE;
    }
}
