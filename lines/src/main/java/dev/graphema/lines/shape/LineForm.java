package dev.graphema.lines.shape;

/** The forms of lines. */
public enum LineForm {
    OWN("Graphema JSON"),
    JSON("JSON objects"),
    PAIRS("key=value pairs"),
    SYSLOG("RFC 5424"),
    ACCESS("Common Log Format"),
    PATTERN("text that matches the pattern"),
    TIMED_TEXT("text that begins with a time"),
    TEXT("other text");

    private final String text;

    LineForm(String text) {
        this.text = text;
    }

    /** Returns whether its values have names in the line. */
    public boolean hasNames() {
        return this == OWN || this == JSON || this == PAIRS || this == PATTERN;
    }

    /** Returns a description for people. */
    public String text() {
        return text;
    }
}
