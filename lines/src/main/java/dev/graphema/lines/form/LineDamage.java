package dev.graphema.lines.form;

/** What is wrong with a line whose event could be read only in part. */
public enum LineDamage {
    CUT_OFF("the line is cut off"),
    NOT_JSON("a part of the line is not JSON"),
    MORE_BEHIND("there is more behind the JSON object"),
    NOT_UTF8("bytes are not UTF-8 and are shown as U+FFFD"),
    REPEATED_NAME("a name has several values, which are shown as a list"),
    STRUCTURED_DATA("the structured data are not those of RFC 5424"),
    NO_TIME("there is no time"),
    INVALID_TIME("the time is not one from 1677 to 2262 in a known form"),
    UNKNOWN_ZONE("the offset of the zone of the time is not known or not the only one"),
    DAY_OR_MONTH("day and month of the time cannot be distinguished");

    private final String text;

    LineDamage(String text) {
        this.text = text;
    }

    /** Returns whether the event shows it without a field for it, because it has no time. */
    boolean isEvident() {
        return this == NO_TIME;
    }

    /** Returns a description for people. */
    public String text() {
        return text;
    }
}
