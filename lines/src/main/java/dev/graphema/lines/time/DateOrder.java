package dev.graphema.lines.time;

/** The order of day and month in dates such as {@code 11/12/2026}. */
public enum DateOrder {
    DAY_FIRST,
    MONTH_FIRST
}
