package dev.graphema.query.typed;

import dev.graphema.condition.Condition;
import dev.graphema.condition.ConditionException;
import dev.graphema.query.Ask;
import dev.graphema.query.EventSelection;
import dev.graphema.query.Question;
import dev.graphema.query.Window;
import java.time.Instant;
import java.time.ZoneId;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * A question for events as people type it: a condition, which is not quoted, and behind it options as of the command, such as
 * {@code level >= warn and service = deck --last 2h --oldest}. Immutable.
 *
 * @param condition the text of the condition; empty for all events
 * @param where the condition
 * @param during the window
 * @param order which events come first
 * @param options the options with their values in the order in which they are typed; {@code --oldest} has an empty one
 */
public record TypedQuestion(
        String condition, Condition where, Window during, Ask.Order order, Map<String, String> options) {
    private static final String OLDEST = "--oldest";
    private static final List<String> VALUED = List.of("--from", "--to", "--last", "--during", "--around", "--within");

    /**
     * Reads a question.
     *
     * @param zone the time zone of times without an offset
     * @throws MistypedException if the text is none
     */
    public static TypedQuestion parse(String text, ZoneId zone, Instant now) {
        return new Reading(text).read(zone, now);
    }

    /** Returns the selected events. */
    public EventSelection selection() {
        return Question.where(where).during(during);
    }

    /** Reads one text. */
    private static final class Reading {
        private final String text;
        private final Map<String, String> options = new LinkedHashMap<>();
        private final Map<String, Integer> columns = new LinkedHashMap<>();
        private int at;

        Reading(String text) {
            this.text = text;
        }

        TypedQuestion read(ZoneId zone, Instant now) {
            int end = conditionEnd();
            String condition = text.substring(0, end).strip();
            at = end;
            while (skipBlanks()) {
                option();
            }
            Condition where = condition(text.substring(0, end).stripTrailing(), zone);
            Window window = window(new TimeWords(zone, now));
            Ask.Order order = options.containsKey(OLDEST) ? Ask.Order.OLDEST : Ask.Order.NEWEST;
            return new TypedQuestion(condition, where, window, order, Map.copyOf(options));
        }

        /** Returns where the options begin: at two hyphens behind a blank, outside of quoted texts. */
        private int conditionEnd() {
            boolean isQuoted = false;
            for (int i = 0; i < text.length(); i++) {
                char c = text.charAt(i);
                if (isQuoted && c == '\\') {
                    i++;
                } else if (c == '"') {
                    isQuoted = !isQuoted;
                } else if (!isQuoted && text.startsWith("--", i) && (i == 0 || isBlank(i - 1))) {
                    return i;
                }
            }
            return text.length();
        }

        private boolean isBlank(int index) {
            return Character.isWhitespace(text.charAt(index));
        }

        private boolean skipBlanks() {
            while (at < text.length() && isBlank(at)) {
                at++;
            }
            return at < text.length();
        }

        private void option() {
            int column = at + 1;
            String name = word();
            if (!name.equals(OLDEST) && !VALUED.contains(name)) {
                throw new MistypedException(
                        column,
                        "\"" + name + "\" is no option here: expected " + String.join(", ", VALUED) + " or " + OLDEST,
                        null);
            }
            String value = "";
            if (!name.equals(OLDEST)) {
                if (!skipBlanks() || text.startsWith("--", at)) {
                    throw new MistypedException(
                            at + 1, "the value of " + name + " is missing: expected " + expected(name), null);
                }
                columns.put(name, at + 1);
                value = value(name);
            }
            if (options.put(name, value) != null) {
                throw new MistypedException(column, name + " is given twice: expected it once", null);
            }
        }

        private static String expected(String name) {
            return switch (name) {
                case "--last", "--within" -> "a duration such as 15m, 2h or 3d";
                case "--during" -> "an interval such as 2026-05-15T07:10/PT40M";
                default -> "a time such as 2026-05-15T07:10, 07:10, yesterday 09:00 or 2h ago";
            };
        }

        private String word() {
            int begin = at;
            while (at < text.length() && !isBlank(at)) {
                at++;
            }
            return text.substring(begin, at);
        }

        /** Returns a value, which ends at the next option, so that it needs quotes in a shell only. */
        private String value(String name) {
            char quote = text.charAt(at);
            if (quote == '"' || quote == '\'') {
                int end = text.indexOf(quote, at + 1);
                if (end < 0) {
                    throw new MistypedException(
                            at + 1, "the value of " + name + " has no end: expected a closing " + quote, null);
                }
                String value = text.substring(at + 1, end);
                at = end + 1;
                return value;
            }
            int end = text.indexOf(" --", at);
            String value = text.substring(at, end < 0 ? text.length() : end).strip();
            at = end < 0 ? text.length() : end;
            return value;
        }

        private static Condition condition(String typed, ZoneId zone) {
            if (typed.isBlank()) {
                return Condition.EVERYTHING;
            }
            try {
                return Condition.parse(typed, () -> zone);
            } catch (ConditionException e) {
                throw new MistypedException(e.column(), e.problem(), e);
            }
        }

        private Window window(TimeWords words) {
            try {
                return new TypedWindow(
                                options.get("--from"),
                                options.get("--to"),
                                options.get("--last"),
                                options.get("--during"),
                                options.get("--around"),
                                options.get("--within"))
                        .window(words);
            } catch (IllegalArgumentException e) {
                String wrong = columns.keySet().stream()
                        .filter(name -> e.getMessage().startsWith(name + " "))
                        .findFirst()
                        .orElseGet(() -> columns.keySet().iterator().next());
                throw new MistypedException(columns.get(wrong), e.getMessage(), e);
            }
        }
    }
}
