package dev.graphema.segments.store;

import java.nio.charset.StandardCharsets;

/**
 * Reads the ids of lines in Graphema JSON: 16 hexadecimal digits of the run, and the number within the run. An id comes before all
 * members with objects. For one thread.
 */
final class EventIds {
    static final String MEMBER = "id";

    /** What a line with an id contains. */
    private static final String IN_JSON = "\"" + MEMBER + "\":";

    private static final int RUN_DIGITS = 16;
    private static final int MOST_DIGITS = 18;

    private long run;
    private long number;

    /** Returns whether a line may have an id: most have none, and need not be read. Strings are searched with instructions for texts. */
    static boolean mayBeIn(byte[] lines, int from, int to) {
        return new String(lines, from, to - from, StandardCharsets.ISO_8859_1).contains(IN_JSON);
    }

    /** Reads the id of a line; returns whether it has one. */
    boolean read(byte[] line, int from, int to) {
        int at = from + 1;
        while (from < to && line[from] == '{' && at < to && line[at] == '"') {
            int name = at + 1;
            int nameEnd = endOfText(line, name, to);
            int value = nameEnd + 2;
            if (value >= to || line[value] == '{' || line[value] == '[') {
                return false;
            }
            boolean isId = nameEnd - name == 2 && line[name] == 'i' && line[name + 1] == 'd';
            if (isId) {
                return line[value] == '"' && isId(line, value + 1, to);
            }
            at = behindValue(line, value, to) + 1;
        }
        return false;
    }

    /** Returns where the quote at the end of a text is. */
    private static int endOfText(byte[] line, int from, int to) {
        int at = from;
        while (at < to && line[at] != '"') {
            at += line[at] == '\\' ? 2 : 1;
        }
        return at;
    }

    private static int behindValue(byte[] line, int from, int to) {
        if (line[from] == '"') {
            return endOfText(line, from + 1, to) + 1;
        }
        int at = from;
        while (at < to && line[at] != ',') {
            at++;
        }
        return at;
    }

    private boolean isId(byte[] line, int from, int to) {
        run = 0;
        int at = from;
        for (; at < to && at < from + RUN_DIGITS; at++) {
            int digit = Character.digit(line[at], 16);
            if (digit < 0 || line[at] < '0') {
                return false;
            }
            run = run << 4 | digit;
        }
        if (at >= to || line[at++] != '-') {
            return false;
        }
        int digits = at;
        number = 0;
        for (; at < to && line[at] >= '0' && line[at] <= '9'; at++) {
            number = number * 10 + line[at] - '0';
        }
        return at > digits && at - digits <= MOST_DIGITS && at < to && line[at] == '"';
    }

    long run() {
        return run;
    }

    long number() {
        return number;
    }
}
