package dev.graphema;

import dev.graphema.event.Event;
import dev.graphema.event.GraphemaException;
import dev.graphema.format.Destination;
import dev.graphema.format.Format;
import dev.graphema.pipeline.Pipeline;
import dev.graphema.pipeline.Reporter;
import dev.graphema.redaction.Redactor;
import dev.graphema.sampling.Sampler;
import dev.graphema.settings.Settings;
import dev.graphema.settings.SinkSettings;
import dev.graphema.sink.Opening;
import dev.graphema.sink.Sink;
import dev.graphema.sink.SinkHealth;
import dev.graphema.spool.RingFile;
import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;

/** Makes the running parts that settings ask for. */
final class Assembly {
    private final Settings settings;
    private final Reporter reporter = Reporter.standardError();
    private final Redactor redactor;
    private final Map<String, Function<? super Event, String>> values;
    private final List<Closeable> opened = new ArrayList<>();

    private Assembly(Settings settings) {
        this.settings = settings;
        this.redactor = new Redactor(
                settings.detectors().stream().map(Redactor::readyDetector).toList());
        this.values = redactedValues();
    }

    /**
     * Opens the sinks and starts the pipeline.
     *
     * @throws GraphemaException when a sink cannot be opened; none is left open then
     */
    static Pipeline start(Settings settings) {
        return new Assembly(settings).start();
    }

    private Pipeline start() {
        Pipeline.Builder pipeline = Pipeline.builder()
                .service(settings.service())
                .instance(settings.instance())
                .run(Long.toHexString(Surroundings.here().nextId() | Long.MIN_VALUE))
                .sampler(new Sampler(
                        settings.sampling(), () -> Surroundings.here().nextId()))
                .reporter(reporter)
                .synchronous(settings.synchronous())
                .redactor(redactor);
        settings.sinks().forEach((name, sink) -> {
            try {
                add(name, sink, pipeline);
            } catch (IOException | IllegalArgumentException e) {
                GraphemaException problem =
                        new GraphemaException("the sink " + name + " cannot be opened: " + told(e), e);
                closeAll(problem);
                throw problem;
            }
        });
        settings.routes().forEach(pipeline::route);
        return pipeline.start();
    }

    private static String told(Exception problem) {
        return problem instanceof IOException
                ? problem + "; check its path and who may write there"
                : problem.getMessage();
    }

    private void add(String name, SinkSettings settings, Pipeline.Builder pipeline) throws IOException {
        SinkHealth health = new SinkHealth(name, reporter::report);
        Opening opening = opening(name, settings, health);
        Sink sink =
                settings.given() != null ? settings.given() : settings.kind().open(settings.options(), opening);
        opened.add(sink::close);
        RingFile ring = null;
        if (settings.durable() && !this.settings.synchronous()) {
            ring = RingFile.open(opening.spool().resolve("handover"), RingFile.USUAL_CAPACITY, health::trouble);
            opened.add(ring);
        }
        pipeline.sink(name, sink, settings.threshold(), health, ring);
    }

    private Opening opening(String name, SinkSettings sink, SinkHealth health) {
        Path spool = Path.of(Opening.named(settings.spoolPath().toString(), settings.service(), settings.instance()));
        return new Opening(
                name,
                settings.service(),
                settings.instance(),
                format(sink),
                spool.resolve(name.replaceAll("[/\\\\:]", "_")),
                settings.spoolTotal(),
                health);
    }

    private Format format(SinkSettings sink) {
        if (sink.format() == null) {
            return null;
        }
        Destination destination = sink.kind().isConsole()
                ? Destination.console(values)
                : Destination.machine(sink.durable() || sink.kind().mayRepeat(), values);
        return sink.format().make(sink.formatOptions(), destination);
    }

    /** The program's own values, which nobody has redacted yet. */
    private Map<String, Function<? super Event, String>> redactedValues() {
        Map<String, Function<? super Event, String>> redacted = new LinkedHashMap<>();
        settings.values()
                .forEach((name, value) -> redacted.put(name, event -> {
                    String text = value.apply(event);
                    return text == null ? null : redactor.redact(text);
                }));
        return redacted;
    }

    private void closeAll(GraphemaException problem) {
        opened.forEach(each -> {
            try {
                each.close();
            } catch (IOException | RuntimeException e) {
                problem.addSuppressed(e);
            }
        });
    }
}
