package dev.graphema.management;

/**
 * The state of a sink, as JMX shows it.
 *
 * @see dev.graphema.sink.SinkStatus
 */
public interface SinkState {
    boolean isWorking();

    /** Since when it works, or does not, in RFC 3339 format. */
    String getSince();

    /** The last error; empty if there was none, or it is over. */
    String getError();

    /** The size of the events in its queue, in bytes. */
    long getQueuedBytes();

    /** The size of the events that wait on the disk, in bytes. */
    long getBacklogBytes();

    /** The age of the oldest event that waits on the disk, in seconds; 0 for none. */
    long getOldestSeconds();

    /** The number of written events. */
    long getWritten();

    /** The number of lost events. */
    long getLost();
}
