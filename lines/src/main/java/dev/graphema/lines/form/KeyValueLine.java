package dev.graphema.lines.form;

import dev.graphema.text.Durations;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Parses lines of {@code key=value} pairs, with quotes and backslashes for values with spaces. */
final class KeyValueLine {
    private static final int MOST_DIGITS = 18;

    private KeyValueLine() {}

    /** Passes on the pairs. Other words become the message if there is none. @return false if there are no pairs */
    static boolean read(String line, EventAssembler to) {
        List<String> words = new ArrayList<>();
        boolean hasMessage = false;
        int pairs = 0;
        int at = 0;
        while (at < line.length()) {
            if (line.charAt(at) <= ' ') {
                at++;
                continue;
            }
            int end = at;
            while (end < line.length() && line.charAt(end) > ' ' && line.charAt(end) != '=') {
                end++;
            }
            if (end == at || end == line.length() || line.charAt(end) != '=') {
                end = end == at ? at + 1 : end;
                words.add(line.substring(at, end));
                at = end;
                continue;
            }
            String name = line.substring(at, end);
            StringBuilder value = new StringBuilder();
            at = value(line, end + 1, value);
            boolean isQuoted = end + 1 < line.length() && line.charAt(end + 1) == '"';
            LineAttribute.Meaning meaning = LineAttribute.meaning(name, Map.of());
            hasMessage |= meaning != null && meaning.role() == LineAttribute.MESSAGE;
            to.take(name, isQuoted ? value.toString() : meaning(value.toString()));
            pairs++;
        }
        if (pairs > 0 && !words.isEmpty() && !hasMessage) {
            to.take("message", String.join(" ", words));
        }
        return pairs > 0;
    }

    /** Parses a value. @return its end */
    private static int value(String line, int from, StringBuilder value) {
        if (from >= line.length() || line.charAt(from) != '"') {
            int end = from;
            while (end < line.length() && line.charAt(end) > ' ') {
                end++;
            }
            value.append(line, from, end);
            return end;
        }
        for (int i = from + 1; i < line.length(); i++) {
            char c = line.charAt(i);
            if (c == '"') {
                return i + 1;
            }
            if (c == '\\' && i + 1 < line.length()) {
                char escaped = line.charAt(++i);
                value.append(escaped == 'n' ? '\n' : escaped == 't' ? '\t' : escaped == 'r' ? '\r' : escaped);
            } else {
                value.append(c);
            }
        }
        return line.length();
    }

    /** Returns a number, a boolean or a duration, if the text is one; else the text. */
    static Object meaning(String text) {
        if (text.isEmpty() || text.length() > 40) {
            return text;
        }
        char first = text.charAt(0);
        if (first == '-' || first >= '0' && first <= '9') {
            if (text.matches("-?(0|[1-9][0-9]{0," + (MOST_DIGITS - 1) + "})")) {
                return Long.parseLong(text);
            }
            if (text.matches("-?(0|[1-9][0-9]{0,14})\\.[0-9]{1,15}")) {
                return Double.parseDouble(text);
            }
            Duration duration = Durations.parse(text);
            return duration == null ? text : duration;
        }
        return text.equals("true") ? Boolean.TRUE : text.equals("false") ? (Object) Boolean.FALSE : text;
    }
}
