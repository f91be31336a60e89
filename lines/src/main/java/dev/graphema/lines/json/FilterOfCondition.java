package dev.graphema.lines.json;

import dev.graphema.condition.Accepted;
import dev.graphema.condition.Name;
import dev.graphema.condition.Range;
import dev.graphema.condition.Resolved;
import dev.graphema.condition.TextRule;
import dev.graphema.event.Attribute;
import dev.graphema.event.Level;
import dev.graphema.text.Decimals;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;

/**
 * Translates a condition into a filter of lines. Only texts and levels are filtered: numbers, times and durations can be written in
 * many ways.
 */
final class FilterOfCondition implements Resolved.Fold<LineFilter> {
    /** An event with a failure has its fingerprint. */
    private static final Set<Attribute> FAILURE =
            EnumSet.of(Attribute.FAILURE_TYPE, Attribute.FAILURE_MESSAGE, Attribute.FAILURE_FINGERPRINT);

    /** The usual value of these is not in the line. */
    private static final Set<Attribute> USUAL = EnumSet.of(Attribute.HELD, Attribute.EVENT_REPEAT, Attribute.WEIGHT);

    @Override
    public LineFilter all(List<LineFilter> parts) {
        LineFilter[] filters =
                parts.stream().filter(part -> part != LineFilter.ALL).toArray(LineFilter[]::new);
        if (filters.length == 0) {
            return LineFilter.ALL;
        }
        return (bytes, from, to) -> {
            for (LineFilter filter : filters) {
                if (!filter.mayMatch(bytes, from, to)) {
                    return false;
                }
            }
            return true;
        };
    }

    @Override
    public LineFilter any(List<LineFilter> parts) {
        if (parts.contains(LineFilter.ALL)) {
            return LineFilter.ALL;
        }
        LineFilter[] filters = parts.toArray(new LineFilter[0]);
        return (bytes, from, to) -> {
            for (LineFilter filter : filters) {
                if (filter.mayMatch(bytes, from, to)) {
                    return true;
                }
            }
            return false;
        };
    }

    @Override
    public LineFilter not(LineFilter part) {
        return LineFilter.ALL;
    }

    @Override
    public LineFilter present(Name name) {
        return name.attribute() != null && FAILURE.contains(name.attribute()) ? new FailureFilter() : LineFilter.ALL;
    }

    @Override
    public LineFilter value(Name name, Accepted accepted) {
        if (name.attribute() == Attribute.LEVEL && accepted.levels() != null) {
            return levels(accepted.levels());
        }
        if (name.attribute() == Attribute.FAILURE_FINGERPRINT) {
            return new FailureFilter(); // it follows from the failure if it is not in the line
        }
        String text = isWritten(name) ? textOfAll(name, accepted) : null;
        if (text == null) {
            return LineFilter.ALL;
        }
        return text(text);
    }

    @Override
    public LineFilter text(TextRule rule) {
        String text = textOfAll(rule);
        return text == null ? LineFilter.ALL : text(text);
    }

    private static boolean isWritten(Name name) {
        return name.attribute() == null || !USUAL.contains(name.attribute());
    }

    /** The text that is in every line with an accepted value; null if there is none. */
    private static String textOfAll(Name name, Accepted accepted) {
        boolean isNumeral = accepted.numeral() != null && Decimals.parse(accepted.numeral()) != null;
        boolean hasManyForms = accepted.numbers() != null
                || accepted.durations() != null
                || accepted.times() != null
                || accepted.levels() != null
                || isNumeral && name.attribute() == null;
        return hasManyForms ? null : textOfAll(accepted.texts());
    }

    private static String textOfAll(TextRule rule) {
        if (rule instanceof TextRule.Equal equal) {
            return equal.value();
        }
        if (rule instanceof TextRule.StartsWith start) {
            return start.prefix();
        }
        if (rule instanceof TextRule.EndsWith end) {
            return end.suffix();
        }
        return rule instanceof TextRule.Contains contains ? contains.part() : null;
    }

    /** The position of the level is known. */
    private static LineFilter levels(Range<Level> accepted) {
        boolean[] passes = new boolean['z' + 1];
        for (Level level : Level.values()) {
            passes[level.text().charAt(0)] |= accepted.contains(level);
        }
        return (bytes, from, to) -> {
            int at = from + LinePrefix.LEVEL_AT;
            if (at >= to) {
                return true;
            }
            byte first = bytes[at];
            return first < 0 || first >= passes.length || passes[first];
        };
    }

    private static LineFilter text(String text) {
        boolean plain = !text.isEmpty() && text.chars().allMatch(c -> c >= 0x20 && c < 0x7F && c != '"' && c != '\\');
        if (!plain) {
            return LineFilter.ALL;
        }
        return new LineFilter.TextFilter(text);
    }
}
