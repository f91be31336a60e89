package dev.graphema.collector;

import dev.graphema.collector.alert.AlertRule;
import dev.graphema.collector.alerting.Trial;
import dev.graphema.collector.audit.Audit;
import dev.graphema.collector.http.Server;
import dev.graphema.segments.store.Store;
import dev.graphema.segments.store.StoreOptions;
import dev.graphema.segments.store.StoreSource;
import dev.graphema.text.Durations;
import java.io.Closeable;
import java.io.IOException;
import java.net.InetAddress;
import java.net.URI;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicReference;

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
        AtomicReference<String> address = new AtomicReference<>();
        try {
            Store store = started.add(Store.open(options.store(), StoreOptions.usual(options.problems())));
            Audit audit = started.add(new Audit(options.store(), options.problems()));
            Endpoints endpoints = new Endpoints(options, isReachable, store, audit, address::get);
            started.add(endpoints.live());
            started.add(endpoints.alerts());
            Inputs inputs = started.add(Inputs.start(options, endpoints.intake()));
            Server server =
                    started.add(Server.start(listening, endpoints.all(), endpoints.requests(), options.problems()));
            address.set(server.address().toString());
            endpoints.alerts().start();
            return new Collector(started, inputs, server);
        } catch (IOException | RuntimeException e) {
            started.close();
            throw e;
        }
    }

    /**
     * Evaluates the alerts of the options over past events of the store, which another process may write.
     *
     * @return when each would have fired, a line each
     * @throws IOException if the store cannot be read
     */
    public static List<String> tryAlerts(CollectorOptions options, Instant from, Instant to) throws IOException {
        List<String> lines = new ArrayList<>();
        StoreSource source = StoreSource.at(options.store());
        for (AlertRule rule : options.alerts()) {
            List<Trial.Firing> firings = Trial.of(rule, source, from, to);
            lines.add(rule.name() + " would have fired " + firings.size() + (firings.size() == 1 ? " time" : " times")
                    + ", evaluated every " + Durations.text(Trial.step(rule)));
            for (Trial.Firing each : firings) {
                lines.add("  " + each.fired() + (each.ended() == null ? " until now" : " to " + each.ended())
                        + (each.group().isEmpty() ? "" : ", " + each.group()) + ": " + each.found());
            }
        }
        return lines;
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
