package dev.graphema.collector;

import dev.graphema.collector.access.Role;
import dev.graphema.collector.access.Tokens;
import dev.graphema.collector.alerting.Alerts;
import dev.graphema.collector.audit.Audit;
import dev.graphema.collector.http.Call;
import dev.graphema.collector.http.Endpoint;
import dev.graphema.collector.http.Problem;
import dev.graphema.collector.http.Requests;
import dev.graphema.collector.ingest.ArrivingLines;
import dev.graphema.collector.ingest.Intake;
import dev.graphema.collector.ingest.LinesEndpoint;
import dev.graphema.collector.ingest.Origin;
import dev.graphema.collector.ingest.Redaction;
import dev.graphema.collector.ingest.Senders;
import dev.graphema.collector.live.LiveReaders;
import dev.graphema.collector.operation.Measurements;
import dev.graphema.collector.otlp.OtlpEndpoint;
import dev.graphema.collector.permission.Caller;
import dev.graphema.collector.permission.TokenAccess;
import dev.graphema.collector.permission.TokensEndpoint;
import dev.graphema.collector.question.Questions;
import dev.graphema.collector.text.FlatJson;
import dev.graphema.event.Event;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.SeveralSources;
import dev.graphema.remote.RemoteSource;
import dev.graphema.segments.store.Store;
import dev.graphema.segments.store.StoreSource;
import dev.graphema.text.Durations;
import java.io.IOException;
import java.io.InputStream;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Supplier;

/** The parts of a collector that answer requests. */
final class Endpoints {
    private static final String JSON = "application/json";

    private final TokenAccess access;
    private final Audit audit;
    private final Intake intake;
    private final LiveReaders live;
    private final Alerts alerts;
    private final Map<String, Endpoint> all = new LinkedHashMap<>();
    private final Requests requests = new Requests();

    Endpoints(CollectorOptions options, boolean isReachable, Store store, Audit audit, Supplier<String> address)
            throws IOException {
        this.audit = audit;
        this.access = new TokenAccess(
                options.store(), isReachable, options.tls() != null, InstantSource.system(), options.problems());
        this.live = new LiveReaders(StoreSource.at(options.store()), access, audit, options.problems());
        Redaction redaction = options.redaction() == null
                ? null
                : new Redaction(options.redaction().redactor());
        this.intake =
                new Intake(store, new ArrivingLines(redaction, options.isStamping()), live::stored, options.problems());
        sending(new Senders(access, options.environment()));
        Questions questions = new Questions(own(options), asked(options), access, Role.READ, audit);
        asking("", questions);
        asking("/" + Audit.FOLDER, new Questions(audit.source(), audit.source(), access, Role.ADMINISTER, audit));
        all.put("GET /live", live);
        operating(new Measurements(new Measurements.Parts(store, intake, redaction, questions, live, requests)));
        administering(options);
        new PageEndpoints(access, options.store()).addTo(all);
        all.put("GET /session", this::session);
        this.alerts = new Alerts(
                options.alerts(),
                options.receivers(),
                new Alerts.Context(
                        options.store(),
                        StoreSource.at(options.store()),
                        this::changed,
                        address,
                        InstantSource.system(),
                        options.problems()));
        alerting(alerts);
    }

    private static EventSource own(CollectorOptions options) throws IOException {
        return StoreSource.at(options.store());
    }

    /** Returns its own events, and those of the other collectors. */
    private static EventSource asked(CollectorOptions options) throws IOException {
        List<EventSource> all = new ArrayList<>(List.of(own(options)));
        for (OtherCollector each : options.others()) {
            RemoteSource other = each.certificates() == null
                    ? RemoteSource.at(each.address(), each.token())
                    : RemoteSource.at(each.address(), each.token(), each.certificates());
            all.add(other.withoutOthers());
        }
        return all.size() == 1 ? all.get(0) : new SeveralSources(all);
    }

    /** Stores a change of an alert among the other events. */
    private void changed(Event event) {
        try {
            intake.take(List.of(event), new Origin("collector", null));
        } catch (IOException e) {
            // the intake has reported it; the notices are sent all the same
        }
    }

    private void sending(Senders senders) {
        all.put("POST /lines", new LinesEndpoint(senders, intake));
        all.put("POST /v1/logs", OtlpEndpoint.logs(senders, intake));
        all.put("POST /v1/traces", OtlpEndpoint.traces(senders, intake));
    }

    private void asking(String path, Questions questions) {
        all.put("POST " + path + "/questions", questions::answer);
        all.put("POST " + path + "/questions/part", questions::part);
        all.put("POST " + path + "/questions/events", questions::events);
    }

    private void operating(Measurements measurements) throws IOException {
        byte[] description = resource("openapi.json");
        all.put("GET /openapi.json", call -> call.send(200, JSON, description));
        all.put("GET /health", call -> call.send(200, JSON, "{\"status\":\"ok\"}"));
        all.put("GET /ready", call -> {
            if (intake.isRefusing()) {
                throw new Problem(
                        503,
                        "Not ready",
                        "the disk does not accept events: make room, or see what the collector has reported",
                        10);
            }
            call.send(200, JSON, "{\"status\":\"ready\"}");
        });
        all.put("GET /metrics", call -> {
            access.require(Role.MEASURE, call);
            call.send(200, Measurements.MEDIA_TYPE, measurements.text());
        });
    }

    private static byte[] resource(String name) throws IOException {
        try (InputStream in = Endpoints.class.getResourceAsStream(name)) {
            return in.readAllBytes();
        }
    }

    private void administering(CollectorOptions options) {
        TokensEndpoint tokens = new TokensEndpoint(
                access,
                new Tokens(options.store()),
                (what, caller, call, token) -> audit.record(what, caller, call, to -> to.put("token", token)),
                InstantSource.system());
        all.put("POST /session", access.sessions()::begin);
        all.put("DELETE /session", access.sessions()::end);
        all.put("GET /tokens", tokens::list);
        all.put("POST /tokens", tokens::create);
        all.put("DELETE /tokens", tokens::revoke);
    }

    private void session(Call call) throws Problem, IOException {
        Caller caller = access.require(Role.READ, call);
        Map<String, String> session = new LinkedHashMap<>();
        session.put("name", caller.name());
        session.put(
                "role",
                (caller.token() == null ? Role.ADMINISTER : caller.token().role())
                        .name()
                        .toLowerCase(Locale.ROOT));
        call.send(200, JSON, FlatJson.of(session));
    }

    private void alerting(Alerts alerts) {
        all.put("GET /alerts", call -> {
            access.require(Role.ADMINISTER, call);
            call.send(200, JSON, alerts.state());
        });
        all.put("POST /alerts/try", call -> {
            access.require(Role.ADMINISTER, call);
            Duration last = call.parameter("last") == null ? null : Durations.parse(call.parameter("last"));
            if (last == null || last.isNegative() || last.isZero()) {
                throw new Problem(
                        400,
                        "The time cannot be read",
                        "last is \"" + call.parameter("last") + "\": expected such as 7d");
            }
            Instant now = InstantSource.system().instant();
            String firings = alerts.tried(call.parameter("name"), now.minus(last), now);
            if (firings == null) {
                throw new Problem(
                        404,
                        "There is no such alert",
                        "name is \"" + call.parameter("name") + "\": expected one that GET /alerts lists");
            }
            call.send(200, JSON, firings);
        });
        all.put("POST /alerts/mute", call -> {
            Caller caller = access.require(Role.ADMINISTER, call);
            String name = call.parameter("name");
            Duration time = call.parameter("for") == null ? null : Durations.parse(call.parameter("for"));
            if (time == null || time.isNegative()) {
                throw new Problem(
                        400,
                        "The time cannot be read",
                        "for is \"" + call.parameter("for") + "\": expected such as 2h");
            }
            if (name == null
                    || !alerts.mute(name, InstantSource.system().instant().plus(time))) {
                throw new Problem(
                        404, "There is no such alert", "name is \"" + name + "\": expected one that GET /alerts lists");
            }
            audit.record(
                    "alert muted", caller, call, to -> to.put("alert", name).put("duration", time));
            call.send(200, JSON, "{\"muted\":\"" + Durations.text(time) + "\"}");
        });
    }

    /** Returns the endpoints by method and path. */
    Map<String, Endpoint> all() {
        return all;
    }

    Requests requests() {
        return requests;
    }

    Intake intake() {
        return intake;
    }

    Alerts alerts() {
        return alerts;
    }

    LiveReaders live() {
        return live;
    }
}
