package dev.graphema.collector;

import dev.graphema.collector.http.Endpoint;
import dev.graphema.collector.http.Server;
import dev.graphema.collector.ingest.ArrivingLines;
import dev.graphema.collector.ingest.Intake;
import dev.graphema.collector.ingest.LinesEndpoint;
import dev.graphema.collector.ingest.Redaction;
import dev.graphema.collector.ingest.Senders;
import dev.graphema.collector.live.LiveReaders;
import dev.graphema.collector.otlp.OtlpEndpoint;
import dev.graphema.collector.permission.Access;
import dev.graphema.collector.question.Questions;
import dev.graphema.segments.store.Store;
import dev.graphema.segments.store.StoreOptions;
import dev.graphema.segments.store.StoreSource;
import java.io.Closeable;
import java.io.IOException;
import java.net.InetAddress;
import java.net.URI;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;

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
    private final Store store;
    private final LiveReaders readers;
    private final Inputs inputs;
    private final Server server;

    private Collector(Store store, LiveReaders readers, Inputs inputs, Server server) {
        this.inputs = inputs;
        this.store = store;
        this.readers = readers;
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
        Store store = Store.open(options.store(), StoreOptions.usual(options.problems()));
        try {
            Access access = new Access(options.store(), isReachable, InstantSource.system(), options.problems());
            LiveReaders readers = new LiveReaders(StoreSource.at(options.store()), access, options.problems());
            Redaction redaction = options.redaction() == null
                    ? null
                    : new Redaction(options.redaction().redactor());
            Intake intake = new Intake(
                    store, new ArrivingLines(redaction, options.isStamping()), readers::stored, options.problems());
            Senders senders = new Senders(access, options.environment());
            Questions questions = new Questions(StoreSource.at(options.store()), access);
            Map<String, Endpoint> endpoints = Map.of(
                    "POST /lines",
                    new LinesEndpoint(senders, intake),
                    "POST /v1/logs",
                    OtlpEndpoint.logs(senders, intake),
                    "POST /v1/traces",
                    OtlpEndpoint.traces(senders, intake),
                    "POST /questions",
                    questions::answer,
                    "POST /questions/part",
                    questions::part,
                    "POST /questions/events",
                    questions::events,
                    "GET /live",
                    readers,
                    "GET /health",
                    call -> call.send(200, "application/json", "{\"status\":\"ok\"}"));
            Server.Listening listening = new Server.Listening(options.host(), options.port(), options.tls());
            Inputs inputs = Inputs.start(options, intake);
            try {
                return new Collector(store, readers, inputs, Server.start(listening, endpoints, options.problems()));
            } catch (IOException e) {
                inputs.close();
                throw e;
            }
        } catch (IOException | RuntimeException e) {
            store.close();
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
        try (store) {
            readers.close();
            inputs.close();
            server.close();
        }
    }
}
