package dev.graphema.explain;

/** The result of a condition about an event that is known in part. */
enum Ternary {
    TRUE,
    FALSE,
    UNKNOWN;

    static Ternary of(boolean value) {
        return value ? TRUE : FALSE;
    }

    Ternary not() {
        return this == UNKNOWN ? UNKNOWN : of(this == FALSE);
    }
}
