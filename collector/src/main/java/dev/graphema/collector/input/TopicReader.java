package dev.graphema.collector.input;

import java.io.Closeable;
import java.io.IOException;
import java.util.function.Consumer;

/** Reads topics. Found as a service ({@link java.util.ServiceLoader}), since the client of a broker is a library of the operator. */
public interface TopicReader {
    /**
     * Begins to read a topic on a thread of its own, where the group has stopped. What the receiver has accepted is committed; what was
     * not committed is read again. An error is reported once, and reading is retried until it is closed.
     *
     * @param member identifies the collector within its group, also after a restart
     * @param problems receives what the operator should know
     * @return ends the reading; what was accepted before is committed
     * @throws IOException if the settings of the topic cannot be used
     */
    Closeable read(Topic topic, String member, RecordReceiver receiver, Consumer<String> problems) throws IOException;
}
