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
 * Conditions on fields in SQL. A field can have values of any type, of which the database decides some: rows with another one are undecided, and
 * their events are examined. As a fold, returns the condition for those rows. Immutable.
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
        return columns.either(field, number -> Sql.TRUE, text -> Sql.TRUE, true);
    }

    /**
     * Returns the condition for an accepted value.
     *
     * @param undecided its result in undecided rows
     */
    Sql has(String field, Accepted accepted, boolean undecided) {
        return columns.either(
                field,
                number -> accepted.acceptsNumeral() ? constant(undecided) : within(number, accepted.numbers()),
                text -> isDecided(accepted.texts())
                        ? SqlConditions.ofText(text, accepted.texts())
                        : constant(undecided),
                undecided);
    }

    private static Sql constant(boolean isTrue) {
        return isTrue ? Sql.TRUE : Sql.FALSE;
    }

    private static boolean isDecided(TextRule rule) {
        return SqlConditions.precision(rule) != Precision.NONE;
    }

    private Sql within(String number, Range<BigDecimal> range) {
        if (range == null) {
            return Sql.FALSE;
        }
        List<Sql> parts = new ArrayList<>();
        if (range.low() != null) {
            parts.add(Sql.of(number + (range.includesLow() ? " >= ?" : " > ?"), columns.bound(range.low())));
        }
        if (range.high() != null) {
            parts.add(Sql.of(number + (range.includesHigh() ? " <= ?" : " < ?"), columns.bound(range.high())));
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
        if (name.field() == null) {
            return Sql.FALSE;
        }
        return columns.either(
                name.field(),
                number -> constant(accepted.acceptsNumeral()),
                text -> constant(!isDecided(accepted.texts())),
                true);
    }

    @Override
    public Sql text(TextRule rule) {
        return Sql.FALSE;
    }
}
