package dev.graphema.event;

/** The type of a field's value. */
public enum Kind {
    /** A {@link String}. */
    TEXT,
    /** An integer that fits into a {@code long}. */
    INTEGER,
    /** A {@code double}. */
    REAL,
    /** A {@link java.math.BigDecimal}: a number that neither {@code long} nor {@code double} holds exactly. */
    DECIMAL,
    /** A {@code boolean}. */
    BOOLEAN,
    /** A {@link java.time.Instant}. */
    TIME,
    /** A {@link java.time.Duration}. */
    DURATION,
    /** The value null. */
    NOTHING,
    /** A group of fields. */
    GROUP,
    /** Values without names, in order. */
    LIST
}
