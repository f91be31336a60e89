package dev.graphema.collector;

import dev.graphema.collector.alert.AlertReceiver;
import dev.graphema.collector.alert.AlertRule;
import dev.graphema.collector.http.TlsFile;
import dev.graphema.collector.input.FollowedPath;
import dev.graphema.collector.input.SyslogPort;
import dev.graphema.collector.input.Topic;
import dev.graphema.settings.RedactionSettings;
import dev.graphema.text.Durations;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.function.Consumer;

/**
 * How a collector is started. Immutable; each method returns options with one change.
 *
 * <pre>{@code
 * CollectorOptions.usual(Path.of("store"), System.err::println).host("0.0.0.0").tls(Path.of("collector.p12"), password)
 * }</pre>
 */
public final class CollectorOptions {
    /** The usual port. */
    public static final int PORT = 7070;

    private static final int MOST_PORTS = 65_535;

    private final Consumer<String> problems;
    private Path store;
    private String host = "127.0.0.1";
    private int port = PORT;
    private TlsFile tls;
    private boolean isStamping = true;
    private String environment;
    private RedactionSettings redaction;
    private List<SyslogPort> syslog = List.of();
    private List<FollowedPath> followed = List.of();
    private List<Topic> topics = List.of();
    private List<OtherCollector> others = List.of();
    private List<AlertRule> alerts = List.of();
    private List<AlertReceiver> receivers = List.of();

    private CollectorOptions(Path store, Consumer<String> problems) {
        this.store = Objects.requireNonNull(store, "store");
        this.problems = Objects.requireNonNull(problems, "problems");
    }

    private CollectorOptions(CollectorOptions from) {
        store = from.store;
        problems = from.problems;
        host = from.host;
        port = from.port;
        tls = from.tls;
        isStamping = from.isStamping;
        environment = from.environment;
        redaction = from.redaction;
        syslog = from.syslog;
        followed = from.followed;
        topics = from.topics;
        others = from.others;
        alerts = from.alerts;
        receivers = from.receivers;
    }

    /**
     * Returns the usual options: this machine only, at port {@value #PORT}, without TLS.
     *
     * @param store the folder of its store, which is created
     * @param problems receives what the operator should know, a sentence each; called on threads of the collector
     */
    public static CollectorOptions usual(Path store, Consumer<String> problems) {
        return new CollectorOptions(store, problems);
    }

    /** Sets the folder of the store, which is created. */
    public CollectorOptions store(Path store) {
        CollectorOptions changed = new CollectorOptions(this);
        changed.store = Objects.requireNonNull(store, "store");
        return changed;
    }

    /**
     * Sets the address on which it listens, by default 127.0.0.1. One that other machines can reach needs TLS, and whoever sends
     * or asks needs a token.
     */
    public CollectorOptions host(String host) {
        CollectorOptions changed = new CollectorOptions(this);
        changed.host = Objects.requireNonNull(host, "host");
        return changed;
    }

    /**
     * Sets the port.
     *
     * @param port 0 for any free one
     */
    public CollectorOptions port(int port) {
        if (port < 0 || port > MOST_PORTS) {
            throw new IllegalArgumentException("port: " + port + " (expected: 0 to " + MOST_PORTS + ")");
        }
        CollectorOptions changed = new CollectorOptions(this);
        changed.port = port;
        return changed;
    }

    /**
     * Encrypts connections.
     *
     * @param file a key and its certificates in PKCS #12 (RFC 7292), which is read again when it changes
     * @param password its password
     */
    public CollectorOptions tls(Path file, String password) {
        CollectorOptions changed = new CollectorOptions(this);
        changed.tls = new TlsFile(file, password);
        return changed;
    }

    /**
     * Sets whether events get fields that state where they come from: {@code collector.source}, {@code collector.environment} and
     * {@code collector.arrived}. By default they do.
     */
    public CollectorOptions stamping(boolean isStamping) {
        CollectorOptions changed = new CollectorOptions(this);
        changed.isStamping = isStamping;
        return changed;
    }

    /** Sets the environment of events whose sender has none: {@code production}. */
    public CollectorOptions environment(String environment) {
        CollectorOptions changed = new CollectorOptions(this);
        changed.environment = Objects.requireNonNull(environment, "environment");
        return changed;
    }

    /** Redacts what arrives. Lines are then read and written again as Graphema JSON. By default, nothing is redacted. */
    public CollectorOptions redaction(RedactionSettings redaction) {
        CollectorOptions changed = new CollectorOptions(this);
        changed.redaction = Objects.requireNonNull(redaction, "redaction");
        return changed;
    }

    /** Adds a port for messages of RFC 5424. By default, there is none. */
    public CollectorOptions syslog(SyslogPort port) {
        CollectorOptions changed = new CollectorOptions(this);
        changed.syslog = new ArrayList<>(syslog);
        changed.syslog.add(port);
        return changed;
    }

    /** Adds a file or folder that is followed. By default, there is none. */
    public CollectorOptions follow(FollowedPath path) {
        CollectorOptions changed = new CollectorOptions(this);
        changed.followed = new ArrayList<>(followed);
        changed.followed.add(path);
        return changed;
    }

    /** Adds a topic of a message broker, which a {@link dev.graphema.collector.input.TopicReader} reads. By default, there is none. */
    public CollectorOptions topic(Topic topic) {
        CollectorOptions changed = new CollectorOptions(this);
        changed.topics = new ArrayList<>(topics);
        changed.topics.add(topic);
        return changed;
    }

    /** Adds a collector that is asked, too: an answer is about the events of all of them. By default, there is none. */
    public CollectorOptions other(OtherCollector collector) {
        CollectorOptions changed = new CollectorOptions(this);
        changed.others = new ArrayList<>(others);
        changed.others.add(collector);
        return changed;
    }

    /** Adds an alert. By default, there is none. */
    public CollectorOptions alert(AlertRule rule) {
        CollectorOptions changed = new CollectorOptions(this);
        changed.alerts = new ArrayList<>(alerts);
        changed.alerts.add(rule);
        return changed;
    }

    /** Adds someone who receives alerts that name it. */
    public CollectorOptions receiver(AlertReceiver receiver) {
        CollectorOptions changed = new CollectorOptions(this);
        changed.receivers = new ArrayList<>(receivers);
        changed.receivers.add(receiver);
        return changed;
    }

    /** Returns the alerts. */
    public List<AlertRule> alerts() {
        return List.copyOf(alerts);
    }

    /** Returns the folder of the store. */
    public Path store() {
        return store;
    }

    /** Returns what is set, a line each, without secrets. */
    public List<String> summary() {
        List<String> lines = new ArrayList<>();
        lines.add("address:     " + (tls == null ? "http" : "https") + "://" + host + ":" + port);
        lines.add("encryption:  " + (tls == null ? "none, so only this machine is answered" : "with " + tls));
        lines.add("store:       " + store);
        lines.add("environment: " + (environment == null ? "that of each token" : environment));
        lines.add("stamp:       " + (isStamping ? "events get collector.source, .environment and .arrived" : "none"));
        lines.add("redaction:   " + (redaction == null ? "none" : redaction));
        for (SyslogPort each : syslog) {
            lines.add("syslog:      " + each.over().name().toLowerCase(Locale.ROOT) + " at " + each.host() + ":"
                    + each.port()
                    + (each.source() == null ? "" : ", source " + each.source())
                    + (each.environment() == null ? "" : ", environment " + each.environment()));
        }
        for (FollowedPath each : followed) {
            lines.add("follow:      " + each.path()
                    + (each.source() == null ? "" : ", source " + each.source())
                    + (each.environment() == null ? "" : ", environment " + each.environment()));
        }
        for (Topic each : topics) {
            lines.add("topic:       " + each.name() + " at " + each.servers() + ", group " + each.group()
                    + (each.client() == null ? "" : ", with the settings in " + each.client())
                    + ", taken over after " + Durations.text(each.takeover())
                    + (each.source() == null ? "" : ", source " + each.source())
                    + (each.environment() == null ? "" : ", environment " + each.environment()));
        }
        for (OtherCollector each : others) {
            lines.add("collector:   " + each + " is asked, too" + (each.token() == null ? "" : ", with a token"));
        }
        for (AlertRule each : alerts) {
            lines.add("alert:       " + each.name() + ", " + each.test() + " in " + Durations.text(each.in())
                    + (each.by() == null ? "" : " by " + each.by())
                    + (each.when().isEverything() ? ", all events" : ", events with " + each.when())
                    + (each.to().isEmpty() ? "" : ", to " + String.join(", ", each.to())));
        }
        for (AlertReceiver each : receivers) {
            lines.add("receiver:    " + each);
        }
        return lines;
    }

    Consumer<String> problems() {
        return problems;
    }

    String host() {
        return host;
    }

    int port() {
        return port;
    }

    /** Returns null for none. */
    TlsFile tls() {
        return tls;
    }

    boolean isStamping() {
        return isStamping;
    }

    /** Returns null for none. */
    String environment() {
        return environment;
    }

    List<AlertReceiver> receivers() {
        return receivers;
    }

    List<FollowedPath> followed() {
        return followed;
    }

    List<OtherCollector> others() {
        return others;
    }

    List<Topic> topics() {
        return topics;
    }

    List<SyslogPort> syslog() {
        return syslog;
    }

    /** Returns null for none. */
    RedactionSettings redaction() {
        return redaction;
    }
}
