package dev.graphema.collector;

import dev.graphema.collector.access.Role;
import dev.graphema.collector.audit.Recorder;
import dev.graphema.collector.http.Endpoint;
import dev.graphema.collector.http.Requests;
import dev.graphema.collector.http.Server;
import dev.graphema.collector.live.SourceReaders;
import dev.graphema.collector.permission.OneVisitor;
import dev.graphema.collector.question.Questions;
import dev.graphema.query.source.EventSource;
import java.io.Closeable;
import java.io.IOException;
import java.net.URI;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.function.Consumer;

/** The page over any source, for one browser on this machine. Thread-safe. */
public final class LocalPage implements Closeable {
    private static final String HOST = "127.0.0.1";

    private final Started started;
    private final Server server;
    private final OneVisitor visitor;

    private LocalPage(Started started, Server server, OneVisitor visitor) {
        this.started = started;
        this.server = server;
        this.visitor = visitor;
    }

    /**
     * Starts a server that answers this machine only.
     *
     * @param port 0 for any free one
     * @param folder where questions and boards are kept
     * @param problems receives what the user should know
     * @throws IOException if the port is not free
     */
    public static LocalPage start(EventSource source, int port, Path folder, Consumer<String> problems)
            throws IOException {
        Started started = new Started();
        OneVisitor visitor = new OneVisitor();
        SourceReaders live = started.add(new SourceReaders(source, visitor, problems));
        Map<String, Endpoint> all = new LinkedHashMap<>();
        Questions questions = new Questions(source, source, visitor, Role.READ, Recorder.NONE);
        all.put("POST /questions", questions::answer);
        all.put("GET /live", live);
        all.put("POST /session", visitor::begin);
        all.put("GET /session", call -> {
            visitor.require(Role.READ, call);
            call.send(200, "application/json", "{\"role\":\"read\"}");
        });
        try {
            new PageEndpoints(visitor, folder).addTo(all);
            Server server =
                    started.add(Server.start(new Server.Listening(HOST, port, null), all, new Requests(), problems));
            return new LocalPage(started, server, visitor);
        } catch (IOException | RuntimeException e) {
            started.close();
            throw e;
        }
    }

    /**
     * Returns the address for a browser. It works once: its fragment, which browsers do not send, contains a secret that the page exchanges
     * for a cookie.
     *
     * @param question the first question, as typed; empty for all events
     */
    public URI address(String question) {
        String asked = question.isEmpty() ? "" : "&q=" + URLEncoder.encode(question, StandardCharsets.UTF_8);
        return URI.create(server.address() + "/#once=" + visitor.secret() + asked);
    }

    @Override
    public void close() throws IOException {
        started.close();
    }
}
