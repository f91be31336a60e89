package dev.graphema.cli.collect;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.verb.LibrariesOption;
import dev.graphema.cli.verb.Verb;
import dev.graphema.collector.Collector;
import dev.graphema.collector.CollectorOptions;
import dev.graphema.collector.settings.CollectorFile;
import dev.graphema.query.Window;
import dev.graphema.query.typed.TimeWords;
import dev.graphema.text.Durations;
import dev.graphema.text.Times;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.concurrent.TimeUnit;

/** Runs a collector until it is interrupted. */
public final class CollectVerb extends Verb {
    private static final long EVERY_MILLIS = 100;

    private final Argument<Path> store =
            own().path("--store", "DIR", "The folder of the store, which is created. Default: store.");
    private final Argument<Path> settings =
            own().path("--settings", "FILE", "A settings file in YAML: address, TLS, store, redaction, and more.");
    private final LibrariesOption libraries = new LibrariesOption(own());
    private final Argument<Boolean> check =
            own().flag("--check", "Reports errors of the settings file and what they set, without starting.");
    private final Argument<String> trial = own().text(
                    "--try",
                    "DURATION",
                    "Prints when the alerts would have fired in the past: 7d. Nothing is started.");
    private final Argument<Boolean> schema =
            own().flag("--schema", "Prints the JSON Schema of the settings file, for editors.");
    private final Argument<String> host = own().text(
                    "--host",
                    "ADDRESS",
                    "The address on which to listen. Default: 127.0.0.1, which others cannot reach.");
    private final Argument<Integer> port = own().count(
                    "--port",
                    CollectorOptions.PORT,
                    "The port; 0 for any free one. Default: " + CollectorOptions.PORT + ".");

    public CollectVerb() {
        super("collect", "Receives the events of many programs, keeps them in a store, and answers questions.");
    }

    @Override
    protected String details() {
        return "Lines come by HTTP: those of the sink http, or of any other program; further inputs, access, redaction and alerts are"
                + " in the settings file. What was acknowledged is on the disk. All search commands ask it with --in and its"
                + " address. The file rules.yaml in the store defines how long events are kept. It runs until it is interrupted.";
    }

    @Override
    protected String examples() {
        return """
                graphema collect --store store
                curl --data-binary @logs/deck.jsonl http://127.0.0.1:7070/lines
                graphema find 'level >= error' --in http://127.0.0.1:7070
                graphema collect --settings collector.yaml --check
                graphema collect --settings collector.yaml --with graphema-kafka-0.1.0.jar --with /opt/kafka/libs
                """;
    }

    @Override
    public int call() throws IOException, InterruptedException, MisuseException {
        if (schema.value()) {
            console().print(CollectorFile.schema());
            return 0;
        }
        libraries.load();
        CollectorOptions options = configured();
        if (check.value()) {
            options.summary().forEach(console()::print);
            return 0;
        }
        if (trial.isGiven()) {
            if (options.alerts().isEmpty()) {
                throw new MisuseException("there are no alerts to try: name a file that has some with --settings");
            }
            Window past = past(trial.value());
            Collector.tryAlerts(options, Times.instant(past.from()), Times.instant(past.to()))
                    .forEach(console()::print);
            return 0;
        }
        try (Collector collector = Collector.start(options)) {
            String url = collector.address().toString();
            console().note("listening at " + url + "; events are kept in " + options.store());
            console()
                    .note("to send lines: curl --data-binary @FILE " + url + "/lines, or a sink {type: http, url: "
                            + url + "/lines}");
            console().note("to search:     " + console().command() + " find 'level >= error' --in " + url);
            console().note("to watch:      " + console().command() + " watch --in " + url);
            console().note("to browse:     open " + url + " in a browser");
            while (!console().stop().getAsBoolean()) {
                TimeUnit.MILLISECONDS.sleep(EVERY_MILLIS);
            }
            console().note("ending; everything that was acknowledged is stored");
        }
        return 0;
    }

    private Window past(String text) throws MisuseException {
        Instant now = Instant.now();
        Duration last = Durations.parse(text);
        if (last != null && !last.isNegative() && !last.isZero()) {
            return Window.between(now.minus(last), now);
        }
        Window window = new TimeWords(console().zone(), now).interval(text);
        if (window == null) {
            throw new MisuseException("--try " + text + " is neither a duration such as 7d nor an interval: "
                    + TimeWords.EXPECTED_INTERVAL);
        }
        return window;
    }

    /** Returns what the settings file sets, changed by what the arguments set. */
    private CollectorOptions configured() throws IOException {
        Path folder = store.isGiven() ? store.value() : Path.of("store");
        CollectorOptions options = settings.isGiven()
                ? CollectorFile.read(settings.value(), console()::note)
                : CollectorOptions.usual(folder, console()::note);
        options = store.isGiven() ? options.store(folder) : options;
        options = host.isGiven() ? options.host(host.value()) : options;
        return port.isGiven() ? options.port(port.value()) : options;
    }
}
