package dev.graphema.query.source;

/** Watches the progress of reading and can stop it. Called on the reading threads, and on one that waits
 * for a database, one call at a time. */
@FunctionalInterface
public interface Control {
    /** Never stops. */
    Control NONE = progress -> true;

    /**
     * Receives the progress at least after each megabyte, or each ten thousand events.
     *
     * @return whether to continue; if not, reading ends as if there were no more events, and the answer states that it
     *     was stopped
     */
    boolean continues(Progress progress);

    /**
     * How far reading is.
     *
     * @param events the number of events so far
     * @param bytes the number of bytes so far; 0 for sources without bytes
     * @param totalBytes the number of bytes to read; 0 if unknown
     */
    record Progress(long events, long bytes, long totalBytes) {}
}
