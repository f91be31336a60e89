package dev.graphema.segments.store;

/**
 * A place in the logs of a store: each event was appended before it or after it. Two places can only be compared for equality.
 *
 * @param log the number of the log
 * @param offset the number of bytes before the place
 */
public record LogPlace(long log, long offset) {}
