package dev.graphema.condition;

import com.google.re2j.Pattern;
import dev.graphema.text.Decimals;
import dev.graphema.text.Durations;
import dev.graphema.text.Times;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.ZoneOffset;
import java.time.format.DateTimeParseException;
import java.util.Locale;
import java.util.function.Predicate;

/** Which texts a condition accepts. Immutable. {@code toString} describes the rule. */
public sealed interface TextRule {
    /** A test of single texts, for any thread. Patterns are compiled once, when this is called. */
    Predicate<String> test();

    /** Accepts no text. */
    record Never() implements TextRule {
        static final Never RULE = new Never();

        @Override
        public Predicate<String> test() {
            return text -> false;
        }

        @Override
        public String toString() {
            return "no text";
        }
    }

    /** Accepts exactly this text. */
    record Equal(String value) implements TextRule {
        @Override
        public Predicate<String> test() {
            return value::equals;
        }

        @Override
        public String toString() {
            return "text = " + Literal.quoted(value);
        }
    }

    /** Accepts texts in a range, compared by UTF-16 code units. */
    record InOrder(Range<String> range) implements TextRule {
        @Override
        public Predicate<String> test() {
            return range::contains;
        }

        @Override
        public String toString() {
            return "text " + range;
        }
    }

    /** Accepts texts that are decimal numbers in a range. */
    record AsNumber(Range<BigDecimal> range) implements TextRule {
        @Override
        public Predicate<String> test() {
            return text -> {
                BigDecimal number = Decimals.parse(text);
                return number != null && range.contains(number);
            };
        }

        @Override
        public String toString() {
            return "text as number " + range;
        }
    }

    /** Accepts texts that are durations in a range, such as {@code 250ms} or, by ISO 8601, {@code PT0.25S}. */
    record AsDuration(Range<Duration> range) implements TextRule {
        @Override
        public Predicate<String> test() {
            return text -> {
                Duration duration = parsed(text);
                return duration != null && range.contains(duration);
            };
        }

        private static Duration parsed(String text) {
            if (text.startsWith("P") || text.startsWith("-PT")) {
                try {
                    return Duration.parse(text);
                } catch (DateTimeParseException e) {
                    return null;
                }
            }
            return Durations.parse(text);
        }

        @Override
        public String toString() {
            return "text as duration " + range;
        }
    }

    /**
     * Accepts texts that are times in a range of nanoseconds since 1970. A text without an offset is a time in UTC: it does not
     * contain its time zone, and UTC gives the same answer everywhere.
     */
    record AsTime(Range<Long> range) implements TextRule {
        @Override
        public Predicate<String> test() {
            return text -> {
                Long time = Times.parse(text, ZoneOffset.UTC);
                return time != null && range.contains(time);
            };
        }

        @Override
        public String toString() {
            return "text as time " + range;
        }
    }

    /** Accepts texts that both rules accept. */
    record Both(TextRule first, TextRule second) implements TextRule {
        @Override
        public Predicate<String> test() {
            return first.test().and(second.test());
        }

        @Override
        public String toString() {
            return first + " and " + second;
        }
    }

    /** Accepts texts that one of the rules accepts. */
    record Either(TextRule first, TextRule second) implements TextRule {
        @Override
        public Predicate<String> test() {
            return first.test().or(second.test());
        }

        @Override
        public String toString() {
            return first + " or " + second;
        }
    }

    /** Accepts texts that begin with this prefix. */
    record StartsWith(String prefix) implements TextRule {
        @Override
        public Predicate<String> test() {
            return text -> text.startsWith(prefix);
        }

        @Override
        public String toString() {
            return "text starts " + Literal.quoted(prefix);
        }
    }

    /** Accepts texts that end with this suffix. */
    record EndsWith(String suffix) implements TextRule {
        @Override
        public Predicate<String> test() {
            return text -> text.endsWith(suffix);
        }

        @Override
        public String toString() {
            return "text ends " + Literal.quoted(suffix);
        }
    }

    /** Accepts texts that contain this part, ignoring case. */
    record Contains(String part) implements TextRule {
        @Override
        public Predicate<String> test() {
            String lower = part.toLowerCase(Locale.ROOT);
            return text -> contains(text, lower);
        }

        private static boolean contains(String text, String lower) {
            if (lower.isEmpty()) {
                return true;
            }
            int last = text.length() - lower.length();
            char first = lower.charAt(0);
            for (int i = 0; i <= last; i++) {
                char c = text.charAt(i);
                boolean mayStart = c == first || Character.toLowerCase(c) == first;
                if (mayStart && text.regionMatches(true, i, lower, 0, lower.length())) {
                    return true;
                }
            }
            return false;
        }

        @Override
        public String toString() {
            return "text has " + Literal.quoted(part);
        }
    }

    /** Accepts texts of which a part matches a regular expression in RE2 syntax. */
    record Matches(String pattern) implements TextRule {
        @Override
        public Predicate<String> test() {
            Pattern compiled = Pattern.compile(pattern);
            return text -> compiled.matcher(text).find();
        }

        @Override
        public String toString() {
            return "text matches " + Literal.quoted(pattern);
        }
    }

    /** Accepts texts that match as a whole, ignoring case: {@code *} matches any characters, {@code ?} one character. */
    record Like(String wildcards) implements TextRule {
        @Override
        public Predicate<String> test() {
            StringBuilder pattern = new StringBuilder("(?is)");
            wildcards
                    .chars()
                    .forEach(c ->
                            pattern.append(c == '*' ? ".*" : c == '?' ? "." : Pattern.quote(String.valueOf((char) c))));
            Pattern compiled = Pattern.compile(pattern.toString());
            return text -> compiled.matcher(text).matches();
        }

        @Override
        public String toString() {
            return "text like " + Literal.quoted(wildcards);
        }
    }

    /** Accepts texts that contain each of the words, ignoring case and a spelling mistake or two. */
    record Near(String words) implements TextRule {
        @Override
        public Predicate<String> test() {
            return WordSearch.near(words);
        }

        @Override
        public String toString() {
            return "text near " + Literal.quoted(words);
        }
    }

    /**
     * Accepts texts that contain all the words in any order, ignoring case.
     *
     * @param others how many other words may be between the first and the last of them
     */
    record Within(String words, int others) implements TextRule {
        @Override
        public Predicate<String> test() {
            return WordSearch.within(words, others);
        }

        @Override
        public String toString() {
            return "text has words " + Literal.quoted(words) + " within " + others;
        }
    }
}
