package dev.graphema.segments.line;

/** The kinds of values of a column. The order is part of the form of the file. */
public enum Kind {
    /** RFC 3339 in UTC with nine digits of a second, in quotes; as nanoseconds since 1970. */
    TIME,
    /** Any text in quotes; as the bytes between them, with escapes. */
    TEXT,
    /** A whole number of up to 18 digits. */
    INTEGER,
    /** Text of 32 or 16 lower-case hexadecimal digits, in quotes; as 16 or 8 bytes. */
    ID,
    /** A value in another form: a decimal number, a list, or a failure; as its bytes. */
    JSON;

    /** Returns whether the value is in quotes, which belong to the shape. */
    public boolean isQuoted() {
        return this == TIME || this == TEXT || this == ID;
    }

    /** Returns whether the values are numbers, and not bytes. */
    public boolean isNumber() {
        return this == TIME || this == INTEGER;
    }
}
