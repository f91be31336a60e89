package dev.graphema.collector.input;

import java.io.IOException;
import java.util.List;

/** Receives the records of a topic. Thread-safe. */
@FunctionalInterface
public interface RecordReceiver {
    /**
     * Stores the events of records; they are on the disk when this returns. A record that arrives again is stored once.
     *
     * @throws IOException if the disk does not accept them, which is reported; the same records are offered again later
     */
    void take(List<TopicRecord> records) throws IOException;
}
