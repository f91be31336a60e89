package dev.graphema.collector.http;

import java.io.IOException;

/** Answers the requests of a path. Thread-safe. */
@FunctionalInterface
public interface Endpoint {
    /**
     * Answers a request.
     *
     * @throws Problem if it cannot be answered
     * @throws IOException if the connection fails
     */
    void answer(Call call) throws Problem, IOException;
}
