package dev.graphema.lines.time;

/** A position in a text, which moves over what it recognises. For one thread. */
final class TextCursor {
    private String text = "";
    private int at;

    void set(String text, int at) {
        this.text = text;
        this.at = at;
    }

    int at() {
        return at;
    }

    void back(int position) {
        at = position;
    }

    boolean isAtEnd() {
        return at == text.length();
    }

    /** Returns the next character, or 0 at the end. */
    char peek() {
        return peek(0);
    }

    /** Returns the character at a distance, or 0 behind the end. */
    char peek(int distance) {
        return at + distance < text.length() ? text.charAt(at + distance) : 0;
    }

    /** Moves over this character if it is the next one. */
    boolean take(char c) {
        if (peek() != c) {
            return false;
        }
        at++;
        return true;
    }

    /**
     * Moves over up to this number of spaces.
     *
     * @return their number
     */
    int spaces(int most) {
        int from = at;
        while (at - from < most && peek() == ' ') {
            at++;
        }
        return at - from;
    }

    /** Returns the number of digits from here on, up to a limit. */
    int digits(int most) {
        int count = 0;
        while (count < most && isDigit(peek(count))) {
            count++;
        }
        return count;
    }

    /**
     * Moves over this number of digits.
     *
     * @return their value
     */
    int number(int digits) {
        int value = 0;
        for (int i = 0; i < digits; i++) {
            value = value * 10 + text.charAt(at++) - '0';
        }
        return value;
    }

    /** Returns the number of ASCII letters from here on, up to a limit. */
    int letters(int most) {
        int count = 0;
        while (count < most && isLetter(peek(count))) {
            count++;
        }
        return count;
    }

    /** Moves over this number of characters and returns them. */
    String taken(int length) {
        at += length;
        return text.substring(at - length, at);
    }

    static boolean isDigit(char c) {
        return c >= '0' && c <= '9';
    }

    static boolean isLetter(char c) {
        return c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z';
    }
}
