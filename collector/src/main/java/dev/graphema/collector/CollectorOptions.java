package dev.graphema.collector;

import java.nio.file.Path;
import java.util.Objects;
import java.util.function.Consumer;

/**
 * How a collector is started.
 *
 * @param host the address on which it listens: so far, that of the machine itself only
 * @param port its port; 0 for any free one
 * @param store the folder of its store, which is created
 * @param problems receives what the operator should know, a sentence each; called on threads of the collector
 */
public record CollectorOptions(String host, int port, Path store, Consumer<String> problems) {
    /** The usual port. */
    public static final int PORT = 7070;

    private static final int MOST_PORTS = 65_535;

    public CollectorOptions {
        Objects.requireNonNull(host, "host");
        Objects.requireNonNull(store, "store");
        Objects.requireNonNull(problems, "problems");
        if (port < 0 || port > MOST_PORTS) {
            throw new IllegalArgumentException("port: " + port + " (expected: 0 to " + MOST_PORTS + ")");
        }
    }

    /** Returns the usual options: this machine only, at port {@value #PORT}. */
    public static CollectorOptions usual(Path store, Consumer<String> problems) {
        return new CollectorOptions("127.0.0.1", PORT, store, problems);
    }
}
