package dev.graphema.explain;

/** The result of a condition about an event that is known in part. */
enum Truth {
    TRUE,
    FALSE,
    UNKNOWN;

    static Truth of(boolean value) {
        return value ? TRUE : FALSE;
    }

    Truth not() {
        return this == UNKNOWN ? UNKNOWN : of(this == FALSE);
    }
}
