package dev.graphema.query.line;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Expression;
import dev.graphema.condition.Literal;
import dev.graphema.condition.Name;
import dev.graphema.condition.Operator;
import dev.graphema.event.Attribute;
import dev.graphema.event.Level;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/**
 * Tells of the bytes of a line whether it can hold an event that meets a condition, without reading it: an event that is to
 * have a text must have its bytes in the line. It never rules out a line that does; a line that it lets through still has
 * to be read and asked.
 *
 * <p>Letters are compared in any case, and only texts of plain ASCII are looked for. A line with a backslash may have any text, since JSON may write any
 * character as an escape; but our own form never writes plain ASCII so. Of levels, only lines in our own form are ruled out: other programs call
 * them otherwise.
 */
public interface LineFilter {
    /** Lets every line through. */
    LineFilter ALL = (bytes, from, to) -> true;

    /** By which levels are compared. */
    Set<Operator> LEVEL_OPERATORS =
            EnumSet.of(Operator.EQUAL, Operator.LESS, Operator.AT_MOST, Operator.MORE, Operator.AT_LEAST);

    boolean mayMatch(byte[] bytes, int from, int to);

    /** Whether of lines in our own form the condition's filter lets those through alone that meet it. */
    static boolean decides(Condition condition) {
        return decides(condition.expression());
    }

    private static boolean decides(Expression expression) {
        if (expression instanceof Expression.And and) {
            return and.parts().stream().allMatch(LineFilter::decides);
        }
        return expression instanceof Expression.Everything
                || expression instanceof Expression.Comparison comparison
                        && comparison.name().attribute() == Attribute.LEVEL
                        && LEVEL_OPERATORS.contains(comparison.operator());
    }

    static LineFilter of(Condition condition) {
        return of(condition.expression());
    }

    private static LineFilter of(Expression expression) {
        if (expression instanceof Expression.And and) {
            return all(and.parts().stream().map(LineFilter::of).toList());
        }
        if (expression instanceof Expression.Or or) {
            return any(or.parts().stream().map(LineFilter::of).toList());
        }
        if (expression instanceof Expression.Phrase phrase) {
            return text(phrase.text());
        }
        if (expression instanceof Expression.OneOf oneOf) {
            return isWritten(oneOf.name())
                    ? any(oneOf.literals().stream().map(LineFilter::equal).toList())
                    : ALL;
        }
        return expression instanceof Expression.Comparison comparison ? comparison(comparison) : ALL;
    }

    private static LineFilter comparison(Expression.Comparison comparison) {
        Literal literal = comparison.literal();
        if (comparison.name().attribute() == Attribute.LEVEL) {
            return levels(comparison.operator(), (Level) literal.value());
        }
        if (comparison.name().attribute() == Attribute.FAILURE_FINGERPRINT) {
            LineFilter told = text("fingerprint");
            LineFilter value = equal(literal);
            // It follows from the failure, and only our own form tells it as well.
            return (bytes, from, to) -> value.mayMatch(bytes, from, to) || !told.mayMatch(bytes, from, to);
        }
        if (comparison.name().attribute() == Attribute.FAILURE_TYPE && isGivenType(literal.source())) {
            return ALL;
        }
        if (!isWritten(comparison.name())) {
            return ALL;
        }
        return switch (comparison.operator()) {
            case EQUAL -> equal(literal);
            case STARTS, ENDS, HAS -> text(literal.source());
            default -> ALL;
        };
    }

    /** Whether every value is written in the line: of these two, false is not. */
    private static boolean isWritten(Name name) {
        return name.attribute() != Attribute.HELD && name.attribute() != Attribute.EVENT_REPEAT;
    }

    /** Whether it may be the type of a failure of another program that did not tell one. */
    private static boolean isGivenType(String text) {
        String lower = text.toLowerCase(Locale.ROOT);
        return "error".contains(lower) || "unknown".contains(lower);
    }

    /** Of the values that are equal, only texts are written in one way alone. */
    private static LineFilter equal(Literal literal) {
        boolean isText = literal.value() instanceof String;
        return isText ? text(literal.source()) : ALL;
    }

    /** Which levels pass; only of lines in our own form is it known where the level stands. */
    private static LineFilter levels(Operator operator, Level literal) {
        boolean[] passes = new boolean['z' + 1];
        for (Level level : Level.values()) {
            int order = Integer.compare(level.severity(), literal.severity());
            passes[level.text().charAt(0)] |= switch (operator) {
                case EQUAL -> order == 0;
                case LESS -> order < 0;
                case AT_MOST -> order <= 0;
                case MORE -> order > 0;
                case AT_LEAST -> order >= 0;
                default -> true;
            };
        }
        return (bytes, from, to) -> {
            int at = from + OwnForm.LEVEL_AT;
            if (at >= to || !OwnForm.hasLevel(bytes, from)) {
                return true;
            }
            byte first = bytes[at];
            return first < 0 || first >= passes.length || passes[first];
        };
    }

    private static LineFilter all(List<LineFilter> parts) {
        LineFilter[] filters = parts.stream().filter(part -> part != ALL).toArray(LineFilter[]::new);
        if (filters.length == 0) {
            return ALL;
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

    private static LineFilter any(List<LineFilter> parts) {
        if (parts.contains(ALL)) {
            return ALL;
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

    private static LineFilter text(String text) {
        boolean plain = !text.isEmpty() && text.chars().allMatch(c -> c >= 0x20 && c < 0x7F && c != '"' && c != '\\');
        if (!plain) {
            return ALL;
        }
        return text.length() < LongTextFilter.SHORTEST ? new TextFilter(text) : new LongTextFilter(text);
    }

    /** Whether texts may stand in the line otherwise than as they are. */
    private static boolean mayHideText(byte[] bytes, int from, int to) {
        boolean isOwn = to - from > OwnForm.LEVEL_AT && OwnForm.hasLevel(bytes, from);
        return !isOwn && Bytes.indexOf('\\', bytes, from, to) >= 0;
    }

    /**
     * Looks for one text that is so long that of the words of eight bytes at every so many places one lies within it wherever it stands: words that are
     * none of the text's are told by one look into a table. Letters are compared without the bit that tells their cases apart.
     */
    final class LongTextFilter implements LineFilter {
        /** From here on, steps are longer than a word. */
        static final int SHORTEST = 2 * Long.BYTES + 1;

        private static final int TABLE_BITS = 12;

        private final TextFilter exactly;

        /** The text's words, by where they begin, and a mark for each at a place that its bits say. */
        private final long[] words;

        private final boolean[] marks = new boolean[1 << TABLE_BITS];

        LongTextFilter(String text) {
            exactly = new TextFilter(text);
            words = new long[text.length() - Long.BYTES + 1];
            byte[] bytes = text.getBytes(StandardCharsets.US_ASCII);
            for (int i = 0; i < words.length; i++) {
                words[i] = Bytes.word(bytes, i) | Bytes.CASE_BITS;
                marks[mark(words[i])] = true;
            }
        }

        private static int mark(long word) {
            return (int) (word * TextCache.SPREAD >>> Long.SIZE - TABLE_BITS);
        }

        @Override
        public boolean mayMatch(byte[] bytes, int from, int to) {
            for (int at = from; at + Long.BYTES <= to; at += words.length) {
                long word = Bytes.word(bytes, at) | Bytes.CASE_BITS;
                if (marks[mark(word)] && isAround(word, bytes, at, from, to)) {
                    return true;
                }
            }
            return mayHideText(bytes, from, to);
        }

        private boolean isAround(long word, byte[] bytes, int at, int from, int to) {
            for (int i = 0; i < words.length; i++) {
                int start = at - i;
                if (words[i] == word
                        && start >= from
                        && start + exactly.lower.length <= to
                        && exactly.isHere(bytes, start)) {
                    return true;
                }
            }
            return false;
        }
    }

    /** Looks for one text in any case: as R. N. Horspool does (1980), from the text's end and in steps as long as what stands there allows. */
    final class TextFilter implements LineFilter {
        private final byte[] lower;
        private final byte[] upper;
        private final int[] steps = new int[256];

        TextFilter(String text) {
            lower = text.toLowerCase(Locale.ROOT).getBytes(StandardCharsets.US_ASCII);
            upper = text.toUpperCase(Locale.ROOT).getBytes(StandardCharsets.US_ASCII);
            Arrays.fill(steps, lower.length);
            for (int i = 0; i < lower.length - 1; i++) {
                steps[lower[i]] = lower.length - 1 - i;
                steps[upper[i]] = lower.length - 1 - i;
            }
        }

        @Override
        public boolean mayMatch(byte[] bytes, int from, int to) {
            int last = lower.length - 1;
            for (int at = from; at + last < to; at += steps[bytes[at + last] & 0xFF]) {
                if (isHere(bytes, at)) {
                    return true;
                }
            }
            return mayHideText(bytes, from, to);
        }

        private boolean isHere(byte[] bytes, int at) {
            for (int i = lower.length - 1; i >= 0; i--) {
                byte b = bytes[at + i];
                if (b != lower[i] && b != upper[i]) {
                    return false;
                }
            }
            return true;
        }
    }
}
