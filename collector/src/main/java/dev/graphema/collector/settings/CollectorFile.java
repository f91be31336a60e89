package dev.graphema.collector.settings;

import dev.graphema.collector.CollectorOptions;
import dev.graphema.collector.OtherCollector;
import dev.graphema.collector.input.FollowedPath;
import dev.graphema.collector.input.SyslogPort;
import dev.graphema.collector.input.SyslogPort.Transport;
import dev.graphema.collector.input.Topic;
import dev.graphema.collector.yaml.Given;
import dev.graphema.collector.yaml.Member;
import dev.graphema.collector.yaml.Member.Kind;
import dev.graphema.collector.yaml.MemberSchema;
import dev.graphema.lines.yaml.YamlFile;
import dev.graphema.settings.SettingsException;
import dev.graphema.settings.SettingsFile;
import dev.graphema.settings.Variables;
import dev.graphema.text.Durations;
import java.io.IOException;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.URISyntaxException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.Consumer;

/**
 * The settings file of a collector, in YAML:
 *
 * <pre>
 * listen: 0.0.0.0:7443
 * tls: {file: collector.p12, password: "${TLS_PASSWORD}"}
 * store: /var/lib/graphema
 * environment: production
 * redaction: graphema.yaml
 * </pre>
 *
 * <p>Paths are relative to the folder of the file. {@code ${NAME}} is a variable of the environment or a system property.
 */
public final class CollectorFile {
    private static final List<Member> MEMBERS = List.of(
            Member.of("listen", Kind.TEXT, "an address and a port: 127.0.0.1:7070, which is the default"),
            Member.group(
                    "tls",
                    "encryption, needed if other machines can reach the address",
                    Member.required("file", Kind.TEXT, "a file with a key and its certificates in PKCS #12"),
                    Member.required("password", Kind.TEXT, "its password, as a variable: ${TLS_PASSWORD}")),
            Member.of("store", Kind.TEXT, "the folder of the store; store by default"),
            Member.of("environment", Kind.TEXT, "the environment of senders whose token has none: production"),
            Member.of("stamp", Kind.BOOLEAN, "whether events get the fields collector.*; true by default"),
            Member.of(
                    "redaction",
                    Kind.TEXT,
                    "a settings file of the library, whose redaction applies to what arrives; none by default"),
            Member.groups(
                    "syslog",
                    "ports for messages of RFC 5424",
                    Member.required("listen", Kind.TEXT, "an address and a port: 127.0.0.1:6514"),
                    Member.of("over", Kind.TEXT, "udp, tcp or tls; tls by default"),
                    Member.of("source", Kind.TEXT, "the name of the sender; its address by default"),
                    Member.of("environment", Kind.TEXT, "the environment of what arrives")),
            Member.groups(
                    "follow",
                    "files and folders that are followed",
                    Member.required("path", Kind.TEXT, "a file, or a folder with logs"),
                    Member.of("source", Kind.TEXT, "the name of the source; that of the file or folder by default"),
                    Member.of("environment", Kind.TEXT, "the environment of their events")),
            Member.groups(
                    "topics",
                    "topics of a message broker that are read; needs graphema-kafka and its client",
                    Member.required("servers", Kind.TEXT, "addresses such as broker-1:9092,broker-2:9092"),
                    Member.required("topic", Kind.TEXT, "the name of the topic"),
                    Member.of(
                            "group", Kind.TEXT, "collectors with the same group share the topic; graphema by default"),
                    Member.of(
                            "client",
                            Kind.TEXT,
                            "a properties file with further settings of the client, such as credentials; none by default"),
                    Member.of(
                            "takeover",
                            Kind.TEXT,
                            "how long the share of a collector that has ended waits for its return; 2m by default"),
                    Member.of("source", Kind.TEXT, "the name of the source; that of the topic by default"),
                    Member.of("environment", Kind.TEXT, "the environment of what arrives")),
            Member.groups(
                    "collectors",
                    "collectors that are asked, too, when this one answers a question",
                    Member.required("url", Kind.TEXT, "its address: https://collector-2.example:7443"),
                    Member.of("token", Kind.TEXT, "the token of a reader there, as a variable: ${COLLECTOR_TOKEN}"),
                    Member.of("certificates", Kind.TEXT, "certificates to trust, in PEM; those of the JDK by default")),
            AlertMembers.ALERTS,
            AlertMembers.RECEIVERS);

    // Brokers accept no others, unless they are configured for them.
    private static final Duration LEAST_TAKEOVER = Duration.ofSeconds(6);
    private static final Duration MOST_TAKEOVER = Duration.ofMinutes(30);

    private CollectorFile() {}

    /**
     * Reads a file.
     *
     * @param problems receives what the operator of the collector should know
     * @throws IOException if it cannot be read, or has errors: the message contains a line for each, with its place and what is expected
     */
    public static CollectorOptions read(Path file, Consumer<String> problems) throws IOException {
        List<String> errors = new ArrayList<>();
        Given given = new Given(YamlFile.read(file), null, MEMBERS, Variables.ofEnvironment()::replaceIn, errors);
        CollectorOptions options = options(given, file.toAbsolutePath().getParent(), problems, errors);
        if (!errors.isEmpty()) {
            throw new IOException(String.join(System.lineSeparator(), errors));
        }
        return options;
    }

    private static CollectorOptions options(Given given, Path folder, Consumer<String> problems, List<String> errors) {
        String store = given.has("store") ? given.text("store") : "store";
        CollectorOptions options =
                CollectorOptions.usual(folder.resolve(store), problems).stamping(given.bool("stamp", true));
        InetSocketAddress address = address(given);
        if (address != null) {
            options = options.host(address.getHostString()).port(address.getPort());
        }
        for (Given each : given.groups("syslog")) {
            options = syslog(options, each);
        }
        for (Given each : given.groups("follow")) {
            if (each.has("path")) {
                options = options.follow(new FollowedPath(
                        folder.resolve(each.text("path")), each.text("source"), each.text("environment")));
            }
        }
        for (Given each : given.groups("topics")) {
            if (each.has("servers") && each.has("topic")) {
                options = options.topic(topic(each, folder));
            }
        }
        for (Given each : given.groups("collectors")) {
            options = other(options, each, folder);
        }
        Given tls = given.group("tls");
        if (tls != null && tls.has("file") && tls.has("password")) {
            options = options.tls(folder.resolve(tls.text("file")), tls.text("password"));
        }
        if (given.has("environment")) {
            options = options.environment(given.text("environment"));
        }
        if (given.has("redaction")) {
            try {
                options = options.redaction(SettingsFile.read(folder.resolve(given.text("redaction")))
                        .redaction());
            } catch (SettingsException e) {
                e.problems().forEach(each -> errors.add(each.toString()));
            } catch (IOException e) {
                given.problem("redaction", "cannot be read: " + e.getMessage());
            }
        }
        return AlertMembers.read(given, options);
    }

    private static CollectorOptions syslog(CollectorOptions options, Given given) {
        InetSocketAddress address = address(given);
        String over = given.has("over") ? given.text("over") : "tls";
        try {
            Transport transport = Transport.valueOf(over.toUpperCase(Locale.ROOT));
            return address == null
                    ? options
                    : options.syslog(new SyslogPort(
                            transport,
                            address.getHostString(),
                            address.getPort(),
                            given.text("source"),
                            given.text("environment")));
        } catch (IllegalArgumentException e) {
            given.problem("over", "\"" + over + "\" is not known: expected udp, tcp or tls");
            return options;
        }
    }

    private static Topic topic(Given given, Path folder) {
        Duration takeover = given.has("takeover") ? Durations.parse(given.text("takeover")) : Topic.TAKEOVER;
        if (takeover == null || takeover.compareTo(LEAST_TAKEOVER) < 0 || takeover.compareTo(MOST_TAKEOVER) > 0) {
            given.problem(
                    "takeover",
                    "\"" + given.text("takeover") + "\" is not a duration from 6s to 30m: expected such as 2m");
            takeover = Topic.TAKEOVER;
        }
        return new Topic(
                given.text("servers"),
                given.text("topic"),
                given.has("group") ? given.text("group") : Topic.GROUP,
                given.has("client") ? folder.resolve(given.text("client")) : null,
                takeover,
                given.text("source"),
                given.text("environment"));
    }

    private static CollectorOptions other(CollectorOptions options, Given given, Path folder) {
        if (!given.has("url")) {
            return options;
        }
        String url = given.text("url");
        try {
            URI address = new URI(url);
            if (url.matches("https?://.*") && address.getHost() != null && address.getQuery() == null) {
                Path certificates = given.has("certificates") ? folder.resolve(given.text("certificates")) : null;
                return options.other(new OtherCollector(address, given.text("token"), certificates));
            }
        } catch (URISyntaxException e) {
            // the message below describes what is expected
        }
        given.problem("url", "\"" + url + "\" is not an address: expected such as https://collector-2.example:7443");
        return options;
    }

    /** Returns the address that is given with listen, which is not looked up; null if there is none, or it has an error. */
    private static InetSocketAddress address(Given given) {
        String listen = given.text("listen");
        if (listen == null) {
            return null;
        }
        try {
            URI address = new URI("http://" + listen);
            if (address.getHost() != null
                    && address.getPort() >= 0
                    && address.getPath().isEmpty()) {
                return InetSocketAddress.createUnresolved(
                        address.getHost().replaceAll("[\\[\\]]", ""), address.getPort());
            }
        } catch (URISyntaxException | IllegalArgumentException e) {
            // the message below describes what is expected
        }
        given.problem("listen", "\"" + listen + "\" is not an address and a port: expected such as 127.0.0.1:7070");
        return null;
    }

    /** Returns the JSON Schema of the file (2020-12), with which editors complete and check it. */
    public static String schema() {
        return MemberSchema.of("The settings of a collector of Graphema", MEMBERS);
    }
}
