package dev.graphema.lines.form;

import dev.graphema.lines.shape.InferredShape;
import dev.graphema.lines.shape.Levels;
import dev.graphema.lines.time.TimeReader;
import dev.graphema.lines.time.TimeRules;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Finds time and level at the beginning of a line of text. The time begins the line, or follows a few words or brackets;
 * the level is a word in capitals, in brackets or before a colon, among the first words. For one thread.
 */
final class TextHead {
    private static final int MOST_BEFORE_TIME = 100;
    private static final int MOST_WORDS = 6;
    private static final String SEPARATORS = "]):,;|-";
    private static final String AROUND_WORDS = "[](){}<>,;|\"'-";

    /** As syslog daemons write lines into files (RFC 3164): host, program, process. */
    private static final Pattern HOST_AND_PROGRAM =
            Pattern.compile(" ?([A-Za-z0-9][^\\s:\\[\\]=\"]*) ([A-Za-z(][^\\s:\\[\\]=\"]*)(?:\\[(\\d+)\\])?: ");

    private final TimeReader times;
    private final boolean hasLevelColumn;
    private String line;
    private int timeFrom;
    private int timeTo;
    private String level;
    private int behindLevel;

    TextHead(TimeRules rules, InferredShape inferred) {
        times = new TimeReader(rules);
        hasLevelColumn = inferred.hasLevel();
    }

    /**
     * Finds time and level.
     *
     * @return whether there is a time
     */
    boolean read(String text) {
        line = text;
        timeFrom = -1;
        timeTo = 0;
        level = null;
        findTime();
        if (timeFrom > 0) {
            findLevel(0, timeFrom);
        }
        if (level == null) {
            findLevel(timeTo, line.length());
        } else {
            behindLevel = -1;
        }
        return timeFrom >= 0;
    }

    /** Returns whether the last line begins with a time, perhaps in brackets. */
    boolean beginsWithTime() {
        return timeFrom == 0 || timeFrom == 1;
    }

    /** Returns the text of the time. */
    String time() {
        return line.substring(timeFrom, timeTo);
    }

    /** Returns whether the time has no year. */
    boolean isYearAssumed() {
        return times.isYearAssumed();
    }

    /** Returns the position behind the time; 0 without one. */
    int behindTime() {
        return timeTo;
    }

    /** Returns the word of the level; null for none. */
    String level() {
        return level;
    }

    /** Returns the message: the text behind the time and a level that follows it; everything if there is more before them. */
    String message() {
        if (timeFrom > 1 || behindLevel < 0) {
            return line;
        }
        return line.substring(after(behindLevel > 0 ? behindLevel : timeTo, SEPARATORS))
                .stripTrailing();
    }

    /** Returns whether the first word behind the time is one of a level, even if it could be one of a sentence. */
    boolean hasLevelBehindTime() {
        int from = afterMarks(timeTo);
        int to = from;
        while (to < line.length() && line.charAt(to) > ' ') {
            to++;
        }
        return Levels.isWord(stripped(line.substring(from, to)));
    }

    /**
     * Passes on host, program and process if they follow the time.
     *
     * @return where the message begins; -1 if they do not
     */
    int hostAndProgram(LineValues to, boolean isCertain) {
        Matcher head = HOST_AND_PROGRAM.matcher(line).region(timeTo, line.length());
        if (!head.lookingAt() || !isCertain && head.group(3) == null || Levels.isWord(head.group(1))) {
            return -1;
        }
        to.take("instance", head.group(1));
        to.take("service", head.group(2));
        if (head.group(3) != null) {
            to.take("process", KeyValueLine.meaning(head.group(3)));
        }
        return head.end();
    }

    private void findTime() {
        int end = Math.min(line.length(), MOST_BEFORE_TIME);
        boolean isStart = true;
        for (int at = 0; at < end; at++) {
            char c = line.charAt(at);
            if (isStart && Character.isLetterOrDigit(c)) {
                int behind = times.read(line, at);
                if (behind >= 0) {
                    timeFrom = at;
                    timeTo = behind;
                    return;
                }
            }
            isStart = !Character.isLetterOrDigit(c) && c != '.' && c != '_' && c != ':';
        }
    }

    private void findLevel(int from, int to) {
        int at = afterMarks(from);
        boolean isFirst = true;
        behindLevel = 0;
        for (int words = 0; words < MOST_WORDS && at < to; words++) {
            int end = at;
            while (end < to && line.charAt(end) > ' ') {
                end++;
            }
            boolean isInBrackets = at > 0 && "[(<|".indexOf(line.charAt(at - 1)) >= 0;
            String token = line.substring(at, end);
            level = levelIn(token, isInBrackets, at == 0, isFirst);
            if (level != null) {
                boolean isAlone = isFirst && stripped(token).startsWith(level);
                int colon = token.indexOf(':');
                behindLevel = isAlone ? at + (colon > 0 ? colon + 1 : token.length()) : 0;
                return;
            }
            boolean isProse = !isInBrackets && token.chars().allMatch(Character::isLowerCase);
            if (isProse && words > 1) {
                return;
            }
            isFirst = false;
            at = afterMarks(end);
        }
    }

    /** Returns the word of a level in a token: in capitals, in brackets, or before a colon; null for none. */
    private String levelIn(String token, boolean isInBrackets, boolean isAtStart, boolean isFirst) {
        int colon = token.indexOf(':');
        for (String part :
                isInBrackets ? token.split(":") : new String[] {colon > 0 ? token.substring(0, colon) : token}) {
            String word = stripped(part.substring(part.lastIndexOf('.') + 1));
            boolean isMarked = isInBrackets || colon > 0 || !part.endsWith(word);
            boolean isCapital = word.equals(word.toUpperCase(Locale.ROOT));
            boolean isLetter = word.length() == 1 && "DIWEF".contains(word);
            boolean isBeforeComma = isAtStart && token.length() == 2 && token.endsWith(",");
            if (Levels.isWord(word) && (isCapital || isMarked || hasLevelColumn && isFirst)
                    || isLetter && (isInBrackets || isBeforeComma)) {
                return word;
            }
        }
        return null;
    }

    private static String stripped(String token) {
        int from = 0;
        int to = token.length();
        while (from < to && AROUND_WORDS.indexOf(token.charAt(from)) >= 0) {
            from++;
        }
        while (to > from && AROUND_WORDS.indexOf(token.charAt(to - 1)) >= 0) {
            to--;
        }
        return token.substring(from, to);
    }

    /** Returns the position of the next word behind spaces and marks. */
    private int afterMarks(int from) {
        return after(from, SEPARATORS + "[(");
    }

    private int after(int from, String marks) {
        int at = from;
        while (at < line.length() && (line.charAt(at) <= ' ' || marks.indexOf(line.charAt(at)) >= 0)) {
            at++;
        }
        return at;
    }
}
