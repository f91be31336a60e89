package dev.graphema.sql.table;

import dev.graphema.condition.Accepted;
import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.condition.Range;
import dev.graphema.condition.Resolved;
import dev.graphema.condition.Split;
import dev.graphema.condition.Split.Precision;
import dev.graphema.condition.TextRule;
import dev.graphema.event.Attribute;
import dev.graphema.event.Level;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * Conditions in SQL about a table that the sink has written. Immutable.
 *
 * <p>Texts are compared exactly where databases compare them as Java does: equality, and beginnings and ends. What databases compare by
 * rules of their own, such as case, is approximated by a weaker condition, and decided for each event that comes back.
 */
public final class SqlConditions implements Resolved.Fold<SqlConditions.Rows> {
    /** Letters to which Java compares other ones as equal that databases may not: dotless i, the Kelvin sign, and the long s. */
    private static final String LETTERS_WITH_OTHERS = "iks";

    private final FieldConditions fields;

    SqlConditions(FieldColumns fields) {
        this.fields = new FieldConditions(fields);
    }

    /** Divides a condition into what is decided in SQL and the rest. */
    Split split(Condition condition) {
        return Split.of(condition.resolved(), this::precision);
    }

    /**
     * Two conditions, which differ in the {@linkplain #undecided undecided} rows.
     *
     * @param possible true for all of these that may match
     * @param certain false for all of these that may not
     */
    record Rows(Sql possible, Sql certain) {
        private static Rows of(Sql both) {
            return new Rows(both, both);
        }
    }

    /** Returns the condition for all rows that may match, as far as SQL decides. */
    Sql possible(Split split) {
        return Sql.all(List.of(
                split.exact().fold(this).possible(),
                split.approximate().fold(this).possible()));
    }

    /** Returns the condition for rows that must be examined because fields have values that no column has. */
    Sql undecided(Split split) {
        return fields.all(
                List.of(split.exact().fold(fields), split.approximate().fold(fields)));
    }

    /** Returns how precisely a leaf is decided. */
    private Precision precision(Resolved leaf) {
        if (leaf instanceof Resolved.Present present) {
            Attribute attribute = present.name().attribute();
            return attribute == null
                    ? fields.precision(present.name().field())
                    : isColumn(attribute) ? Precision.EXACT : Precision.NONE;
        }
        if (leaf instanceof Resolved.HasText text) {
            return pattern(text.rule()) == null || hasEscapes(((TextRule.Contains) text.rule()).part())
                    ? Precision.NONE
                    : Precision.APPROXIMATE;
        }
        Resolved.HasValue value = (Resolved.HasValue) leaf;
        Attribute attribute = value.name().attribute();
        if (attribute == Attribute.LEVEL || attribute == Attribute.TIME) {
            return isOnly(value.accepted(), attribute) ? Precision.EXACT : Precision.NONE;
        }
        if (attribute == Attribute.FAILURE_TYPE || attribute == Attribute.FAILURE_MESSAGE) {
            return Precision.APPROXIMATE;
        }
        if (attribute == null) {
            return fields.precision(value.name().field(), value.accepted());
        }
        return EventColumns.TEXTS.containsKey(attribute)
                ? precision(value.accepted().texts())
                : Precision.NONE;
    }

    /** Returns how precisely a text in a column is decided. */
    public static Precision precision(TextRule rule) {
        if (rule instanceof TextRule.Contains) {
            return pattern(rule) == null ? Precision.NONE : Precision.APPROXIMATE;
        }
        if (rule instanceof TextRule.Either either) {
            Precision one = precision(either.first());
            Precision other = precision(either.second());
            return one.ordinal() > other.ordinal() ? one : other;
        }
        return rule instanceof TextRule.Equal
                        || rule instanceof TextRule.StartsWith
                        || rule instanceof TextRule.EndsWith
                        || rule instanceof TextRule.Never
                ? Precision.EXACT
                : Precision.NONE;
    }

    private static boolean isColumn(Attribute attribute) {
        return attribute == Attribute.LEVEL
                || attribute == Attribute.FAILURE_TYPE
                || EventColumns.TEXTS.containsKey(attribute);
    }

    /** Returns whether only values of the attribute's own type can be accepted. */
    private static boolean isOnly(Accepted accepted, Attribute attribute) {
        return attribute == Attribute.LEVEL ? accepted.levels() != null : accepted.times() != null;
    }

    @Override
    public Rows all(List<Rows> parts) {
        return new Rows(
                Sql.all(parts.stream().map(Rows::possible).toList()),
                Sql.all(parts.stream().map(Rows::certain).toList()));
    }

    @Override
    public Rows any(List<Rows> parts) {
        return new Rows(
                Sql.any(parts.stream().map(Rows::possible).toList()),
                Sql.any(parts.stream().map(Rows::certain).toList()));
    }

    @Override
    public Rows not(Rows part) {
        return new Rows(Sql.not(part.certain), Sql.not(part.possible));
    }

    @Override
    public Rows present(Name name) {
        Attribute attribute = name.attribute();
        if (attribute == null) {
            return Rows.of(fields.exists(name.field()));
        }
        return Rows.of(
                Sql.of((attribute == Attribute.FAILURE_TYPE ? EventColumns.FAILURE : EventColumns.counted(attribute))
                        + " is not null"));
    }

    @Override
    public Rows value(Name name, Accepted accepted) {
        Attribute attribute = name.attribute();
        return attribute == null
                ? new Rows(fields.has(name.field(), accepted, true), fields.has(name.field(), accepted, false))
                : Rows.of(value(attribute, accepted));
    }

    private static Sql value(Attribute attribute, Accepted accepted) {
        if (attribute == Attribute.LEVEL) {
            return levels(accepted.levels());
        }
        if (attribute == Attribute.TIME) {
            return times(accepted.times());
        }
        if (attribute == Attribute.FAILURE_TYPE || attribute == Attribute.FAILURE_MESSAGE) {
            return Sql.of(EventColumns.FAILURE + " is not null");
        }
        return text(EventColumns.TEXTS.get(attribute), accepted.texts());
    }

    @Override
    public Rows text(TextRule rule) {
        return Rows.of(text(EventColumns.LINE, rule));
    }

    private static Sql levels(Range<Level> range) {
        List<Sql> parts = new ArrayList<>();
        parts.add(Sql.of(EventColumns.LEVEL + " is not null"));
        if (range.low() != null) {
            parts.add(Sql.of(
                    EventColumns.SEVERITY + (range.includesLow() ? " >= ?" : " > ?"),
                    range.low().severity()));
        }
        if (range.high() != null) {
            parts.add(Sql.of(
                    EventColumns.SEVERITY + (range.includesHigh() ? " <= ?" : " < ?"),
                    range.high().severity()));
        }
        return Sql.all(parts);
    }

    private static Sql times(Range<Long> range) {
        List<Sql> parts = new ArrayList<>();
        if (range.low() != null) {
            parts.add(SqlTimes.from(range.low(), range.includesLow()));
        }
        if (range.high() != null) {
            parts.add(SqlTimes.to(range.high(), range.includesHigh()));
        }
        return Sql.all(parts);
    }

    /** Returns the condition for a text in a column, which is false if there is none. */
    public static Sql text(String column, TextRule rule) {
        return FieldColumns.present(column, any -> ofText(any, rule));
    }

    /** As above, for an expression that is not null. */
    static Sql ofText(String text, TextRule rule) {
        if (rule instanceof TextRule.Equal equal) {
            return isStorable(equal.value()) ? Sql.of(text + " = ?", equal.value()) : Sql.FALSE;
        }
        if (rule instanceof TextRule.StartsWith starts) {
            return like(text, starts.prefix(), escaped(starts.prefix()) + "%");
        }
        if (rule instanceof TextRule.EndsWith ends) {
            return like(text, ends.suffix(), "%" + escaped(ends.suffix()));
        }
        if (rule instanceof TextRule.Contains) {
            return Sql.of("lower(" + text + ") like ? escape '!'", pattern(rule));
        }
        if (rule instanceof TextRule.Either either) {
            return Sql.any(List.of(ofText(text, either.first()), ofText(text, either.second())));
        }
        return Sql.FALSE; // no text at all
    }

    private static Sql like(String text, String part, String pattern) {
        return isStorable(part) ? Sql.of(text + " like ? escape '!'", pattern) : Sql.FALSE;
    }

    /** Returns whether a database can have this text, so that a plain row can. */
    private static boolean isStorable(String text) {
        return text.codePoints().noneMatch(point -> point == 0 || point >= 0xD800 && point <= 0xDFFF);
    }

    /** Returns a pattern for lower-case texts that contain a part, and perhaps for others; null if there is none. */
    private static String pattern(TextRule rule) {
        if (!(rule instanceof TextRule.Contains contains)
                || !contains.part().chars().allMatch(c -> c > 0 && c < 0x80)) {
            return null;
        }
        StringBuilder pattern = new StringBuilder("%");
        for (char c : contains.part().toLowerCase(Locale.ROOT).toCharArray()) {
            pattern.append(LETTERS_WITH_OTHERS.indexOf(c) >= 0 ? "_" : escaped(String.valueOf(c)));
        }
        return pattern.append('%').toString();
    }

    /** Returns whether JSON writes a part of this text in another way, so that it cannot be searched in the line. */
    private static boolean hasEscapes(String text) {
        return text.chars().anyMatch(c -> c < ' ' || c == '"' || c == '\\' || c == '/' || c == 0x7F);
    }

    private static String escaped(String text) {
        return text.replace("!", "!!").replace("%", "!%").replace("_", "!_");
    }
}
