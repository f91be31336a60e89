package dev.graphema.lines.json;

import java.nio.charset.StandardCharsets;

/**
 * Steps through the JSON of a line of the usual form. Each method returns whether, or where, it found its element; it
 * checks no more than necessary. For one thread, reused for each line.
 */
abstract class Cursor {
    /** The result for a missing number; no line of Graphema JSON contains it. */
    static final long NO_NUMBER = Long.MIN_VALUE;

    private static final int LONGEST_WHOLE_NUMBER = 18;

    byte[] bytes;
    int at;
    int end;

    // Of the text that was stepped over last.
    boolean hasEscape;
    int textFrom;

    /** Sets the bytes. */
    final void set(byte[] line, int from, int to) {
        bytes = line;
        at = from;
        end = to;
    }

    /**
     * Skips the next byte if it is this one.
     *
     * @return whether it was
     */
    final boolean take(char wanted) {
        if (at >= end || bytes[at] != wanted) {
            return false;
        }
        at++;
        return true;
    }

    /** Reads a whole number, or returns {@link #NO_NUMBER}. */
    final long number() {
        if (at >= end) {
            return NO_NUMBER;
        }
        boolean isNegative = bytes[at] == '-';
        at += isNegative ? 1 : 0;
        int from = at;
        long number = 0;
        while (at < end && bytes[at] >= '0' && bytes[at] <= '9') {
            number = number * 10 + bytes[at++] - '0';
        }
        boolean isWhole = at > from
                && at - from <= LONGEST_WHOLE_NUMBER
                && at < end
                && (bytes[at] == ',' || bytes[at] == '}')
                && (bytes[from] != '0' || at == from + 1);
        return isWhole ? isNegative ? -number : number : NO_NUMBER;
    }

    /**
     * Skips a name and its colon.
     *
     * @return its begin, or -1
     */
    final int name() {
        if (!text() || hasEscape || at >= end || bytes[at] != ':') {
            return -1;
        }
        at++;
        return textFrom;
    }

    /** Skips a quoted text, from {@link #textFrom} to the position minus one. */
    final boolean text() {
        if (at >= end || bytes[at] != '"') {
            return false;
        }
        hasEscape = false;
        textFrom = ++at;
        while (at < end) {
            int found = Bytes.indexOf('"', '\\', bytes, at, end);
            if (found < 0) {
                return false;
            }
            at = found + 1;
            if (bytes[found] == '"') {
                return true;
            }
            hasEscape = true;
            at++;
        }
        return false;
    }

    /** Returns the last text, which must have no escape. */
    final String string() {
        return new String(bytes, textFrom, at - 1 - textFrom, StandardCharsets.UTF_8);
    }

    /** Skips any value. */
    final boolean skip() {
        if (at >= end) {
            return false;
        }
        byte first = bytes[at];
        if (first == '"') {
            return text();
        }
        if (first != '{' && first != '[') {
            while (at < end && bytes[at] != ',' && bytes[at] != '}' && bytes[at] != ']') {
                at++;
            }
            return true;
        }
        int depth = 0;
        while (at < end) {
            byte b = bytes[at];
            if (b == '"') {
                if (!text()) {
                    return false;
                }
                continue;
            }
            at++;
            if (b == '{' || b == '[') {
                depth++;
            } else if ((b == '}' || b == ']') && --depth == 0) {
                return true;
            }
        }
        return false;
    }

    final boolean literal(String text) {
        if (!is(at, Math.min(text.length(), end - at), text)) {
            return false;
        }
        at += text.length();
        return true;
    }

    final boolean is(int from, int length, String text) {
        if (length != text.length()) {
            return false;
        }
        for (int i = 0; i < length; i++) {
            if (bytes[from + i] != text.charAt(i)) {
                return false;
            }
        }
        return true;
    }

    final boolean matches(int from, int length, byte[] name) {
        for (int i = 0; i < length; i++) {
            if (bytes[from + i] != name[i]) {
                return false;
            }
        }
        return true;
    }
}
