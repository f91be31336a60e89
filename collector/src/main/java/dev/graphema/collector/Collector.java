package dev.graphema.collector;

import dev.graphema.collector.audit.Audit;
import dev.graphema.collector.http.Server;
import dev.graphema.segments.store.Store;
import dev.graphema.segments.store.StoreOptions;
import java.io.Closeable;
import java.io.IOException;
import java.net.InetAddress;
import java.net.URI;
import java.util.List;

/**
 * A server that receives events, keeps them in a store, and answers questions. Thread-safe.
 *
 * <pre>{@code
 * try (Collector collector = Collector.start(CollectorOptions.usual(Path.of("store"), System.err::println))) {
 *     System.err.println("listening at port " + collector.port());
 * }
 * }</pre>
 */
public final class Collector implements Closeable {
    private final Started started;
    private final Inputs inputs;
    private final Server server;

    private Collector(Started started, Inputs inputs, Server server) {
        this.started = started;
        this.inputs = inputs;
        this.server = server;
    }

    /**
     * Starts a collector.
     *
     * @throws IOException if another process writes the store, or the port is not free
     */
    public static Collector start(CollectorOptions options) throws IOException {
        boolean isReachable = !InetAddress.getByName(options.host()).isLoopbackAddress();
        if (isReachable && options.tls() == null) {
            throw new IOException(
                    options.host() + " can be reached from other machines, and what is sent there is not encrypted:"
                            + " give a key and certificates with tls, or use 127.0.0.1, and a proxy that encrypts");
        }
        Server.Listening listening = new Server.Listening(options.host(), options.port(), options.tls());
        Started started = new Started();
        try {
            Store store = started.add(Store.open(options.store(), StoreOptions.usual(options.problems())));
            Audit audit = started.add(new Audit(options.store(), options.problems()));
            Endpoints endpoints = new Endpoints(options, isReachable, store, audit);
            started.add(endpoints.live());
            Inputs inputs = started.add(Inputs.start(options, endpoints.intake()));
            Server server =
                    started.add(Server.start(listening, endpoints.all(), endpoints.requests(), options.problems()));
            return new Collector(started, inputs, server);
        } catch (IOException | RuntimeException e) {
            started.close();
            throw e;
        }
    }

    /** Returns the port on which it listens. */
    public int port() {
        return server.port();
    }

    /** Returns the address for senders and readers on this machine: {@code http://127.0.0.1:7070}. */
    public URI address() {
        return server.address();
    }

    /** Returns the numbers of the syslog ports in the order of the options. */
    public List<Integer> syslogPorts() {
        return inputs.syslogPorts();
    }

    /** Ends all connections; what was acknowledged is stored. */
    @Override
    public void close() throws IOException {
        started.close();
    }
}
