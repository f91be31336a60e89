package dev.graphema.sink;

import java.time.Instant;

/**
 * The events that wait on the disk because a receiver is unavailable. Immutable.
 *
 * @param bytes the size of their files; 0 for none
 * @param oldest when the oldest of them was emitted; null for none, or if it has no time
 */
public record Backlog(long bytes, Instant oldest) {
    /** No events wait. */
    public static final Backlog NONE = new Backlog(0, null);
}
