package dev.graphema.lines.form;

import dev.graphema.lines.shape.CommonNames;
import dev.graphema.lines.shape.LineAttribute;
import dev.graphema.text.Durations;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/** Parses lines of {@code key=value} pairs, with quotes and backslashes for values with spaces. */
final class KeyValueLine {
    private static final int MOST_DIGITS = 18;

    /** What names contain beside letters and digits, within a text and in a line of pairs. */
    private static final String OF_NAMES = "_.-";

    private static final String MORE_OF_NAMES = "_.-@$/:#";

    private KeyValueLine() {}

    /** Returns whether a line begins with a name, an equals sign and a value. */
    static boolean beginsWithPair(String line) {
        int from = 0;
        while (from < line.length() && line.charAt(from) == ' ') {
            from++;
        }
        int end = nameEnd(line, from, MORE_OF_NAMES);
        return end > from && end < line.length() && line.charAt(end) == '=';
    }

    /** Passes on the pairs of a line that begins with one; other words become the message if there is none. */
    static boolean read(String line, LineValues to) {
        Pairs pairs = new Pairs(line, to, false);
        pairs.read(0);
        String words = String.join(" ", pairs.words);
        if (pairs.count > 0 && pairs.hasMessage) {
            to.rest(words);
        } else if (pairs.count > 0 && !words.isEmpty()) {
            to.take("message", words);
        }
        return pairs.count > 0;
    }

    /**
     * Passes on the pairs within a text, which is the message.
     *
     * @return whether there are some
     */
    static boolean pairs(String text, int from, LineValues to) {
        if (text.indexOf('=', from) < 0) {
            return false;
        }
        Pairs pairs = new Pairs(text, to, true);
        pairs.read(from);
        return pairs.count > 0;
    }

    private static int nameEnd(String line, int from, String more) {
        int end = from;
        while (end < line.length()
                && (Character.isLetterOrDigit(line.charAt(end)) || more.indexOf(line.charAt(end)) >= 0)) {
            end++;
        }
        return end;
    }

    /** The pairs of a line, and the words between them. */
    private static final class Pairs {
        private final String line;
        private final LineValues to;
        private final boolean isWithinText;
        private final List<String> words = new ArrayList<>();
        private boolean hasMessage;
        private int count;

        Pairs(String line, LineValues to, boolean isWithinText) {
            this.line = line;
            this.to = to;
            this.isWithinText = isWithinText;
        }

        void read(int from) {
            int at = from;
            while (at < line.length()) {
                if (line.charAt(at) <= ' ') {
                    at++;
                    continue;
                }
                int name = isWithinText ? afterBracket(at) : at;
                int end = nameEnd(line, name, isWithinText ? OF_NAMES : MORE_OF_NAMES);
                boolean isPair = end > name
                        && end < line.length()
                        && line.charAt(end) == '='
                        && !(isWithinText && (end + 1 == line.length() || line.charAt(end + 1) == '='));
                if (isPair) {
                    at = pair(line.substring(name, end), end + 1);
                } else {
                    int wordEnd = at + 1;
                    while (wordEnd < line.length() && line.charAt(wordEnd) > ' ') {
                        wordEnd++;
                    }
                    words.add(line.substring(at, wordEnd));
                    at = wordEnd;
                }
            }
        }

        private int afterBracket(int at) {
            return "([{,;".indexOf(line.charAt(at)) >= 0 ? at + 1 : at;
        }

        private int pair(String name, int from) {
            StringBuilder text = new StringBuilder();
            int end = value(line, from, text);
            boolean isQuoted = from < line.length() && line.charAt(from) == '"';
            if (isQuoted && (end == from + 1 || line.charAt(end - 1) != '"')) {
                to.damaged(LineDamage.CUT_OFF);
            }
            String value = isWithinText && !isQuoted ? withoutMarks(text.toString()) : text.toString();
            hasMessage |= CommonNames.meaning(name).attribute() == LineAttribute.MESSAGE;
            to.take(name, isQuoted ? value : meaning(value));
            count++;
            return end;
        }

        /** Without the punctuation that ends a pair in a sentence. */
        private static String withoutMarks(String text) {
            int end = text.length();
            while (end > 0 && ",;)]}".indexOf(text.charAt(end - 1)) >= 0) {
                end--;
            }
            return text.substring(0, end);
        }
    }

    /**
     * Parses a value.
     *
     * @return its end
     */
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
