package dev.graphema.runtime;

import dev.graphema.event.Event;
import dev.graphema.event.EventBytes;
import dev.graphema.event.GraphemaException;
import dev.graphema.event.Level;
import dev.graphema.failure.FailurePolicy;
import dev.graphema.format.Destination;
import dev.graphema.format.Format;
import dev.graphema.holdback.HoldBack;
import dev.graphema.pipeline.Pipeline;
import dev.graphema.pipeline.PipelineBuilder;
import dev.graphema.pipeline.Reporter;
import dev.graphema.propagation.RandomIds;
import dev.graphema.redaction.Redactor;
import dev.graphema.sampling.Sampler;
import dev.graphema.settings.Settings;
import dev.graphema.settings.SinkSettings;
import dev.graphema.sink.FileKind;
import dev.graphema.sink.LateSink;
import dev.graphema.sink.Sink;
import dev.graphema.sink.SinkContext;
import dev.graphema.sink.SinkHealth;
import dev.graphema.spool.RingFile;
import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.BiPredicate;
import java.util.function.Function;

/** Makes the running parts that settings ask for. */
final class PipelineAssembly {
    private final Settings settings;
    private final Map<String, Part> known;
    private final Reporter reporter = Reporter.standardError();
    private final Redactor redactor;
    private final Map<String, Function<? super Event, String>> values;
    private final Map<String, Part> parts = new LinkedHashMap<>();
    private final List<Closeable> opened = new ArrayList<>();

    /** A running sink and what it was made from. */
    record Part(SinkSettings settings, SinkHealth health) {}

    private PipelineAssembly(Settings settings, Map<String, Part> known) {
        this.settings = settings;
        this.known = known;
        this.redactor = settings.redaction().redactor();
        this.values = redactedValues();
    }

    /** What is ready to run, its redactor, the parts it consists of, and what was opened for it. */
    record Assembled(PipelineBuilder pipeline, Redactor redactor, Map<String, Part> parts, List<Closeable> opened) {
        /** Closes what was opened, because it will not run after all. */
        void discard(Exception reason) {
            closeAll(opened, reason);
        }
    }

    /**
     * Opens the sinks.
     *
     * @param admits whether the thresholds let an event in
     * @throws GraphemaException when a sink cannot be opened; none is left open then
     */
    static Assembled assemble(Settings settings, BiPredicate<String, Level> admits) {
        PipelineAssembly assembly = new PipelineAssembly(settings, Map.of());
        return new Assembled(assembly.build(admits), assembly.redactor, assembly.parts, assembly.opened);
    }

    /**
     * Opens the sinks that are new or different, in place of those of a runtime. One that would use the files of one that goes
     * is opened when that has ended.
     *
     * @throws GraphemaException when a sink cannot be opened; those of the runtime are as they were then
     */
    static Assembled again(
            Settings settings, Settings before, Map<String, Part> known, BiPredicate<String, Level> admits) {
        boolean sameNames = Objects.equals(settings.service(), before.service())
                && Objects.equals(settings.instance(), before.instance())
                && settings.spoolPath().equals(before.spoolPath())
                && settings.spoolTotal() == before.spoolTotal()
                && settings.values().equals(before.values())
                && settings.synchronous() == before.synchronous()
                && settings.redaction().equals(before.redaction());
        PipelineAssembly assembly = new PipelineAssembly(settings, known);
        Map<String, Part> kept = new LinkedHashMap<>(known);
        kept.entrySet()
                .removeIf(part -> !settings.sinks().containsKey(part.getKey())
                        || !settings.sinks()
                                .get(part.getKey())
                                .isSameSink(part.getValue().settings())
                        || !sameNames && part.getValue().settings().given() == null);
        assembly.parts.putAll(kept);
        // What is held was redacted by the old settings, and goes when those were others.
        boolean keepsHeld = settings.holdBack().equals(before.holdBack()) && sameNames;
        return new Assembled(
                assembly.build(admits).keepHeld(keepsHeld), assembly.redactor, assembly.parts, assembly.opened);
    }

    private PipelineBuilder build(BiPredicate<String, Level> admits) {
        PipelineBuilder pipeline = Pipeline.builder()
                .service(settings.service())
                .instance(settings.instance())
                .run(Long.toHexString(RandomIds.next() | Long.MIN_VALUE))
                .sampler(new Sampler(settings.sampling(), () -> RandomIds.next()))
                .reporter(reporter)
                .synchronous(settings.synchronous())
                .firstMatch(settings.firstMatch())
                .admits(admits)
                .holdBack(settings.holdBack().map(HoldBack::new).orElse(HoldBack.NONE))
                .redactor(redactor);
        settings.sinks().forEach((name, sink) -> {
            try {
                if (parts.containsKey(name)) {
                    pipeline.keep(name, sink.threshold());
                } else {
                    add(name, sink, pipeline);
                }
            } catch (Throwable e) {
                GraphemaException problem =
                        new GraphemaException("the sink " + name + " cannot be opened: " + described(e), e);
                closeAll(opened, problem);
                FailurePolicy.contain(e);
                throw problem;
            }
        });
        settings.routes().forEach(pipeline::route);
        return pipeline;
    }

    private void add(String name, SinkSettings sink, PipelineBuilder pipeline) throws IOException {
        SinkHealth health = known.containsKey(name) ? known.get(name).health() : new SinkHealth(name, reporter::report);
        SinkContext context = context(name, sink, health);
        boolean waits = sink.given() == null && usesFilesOfAnother(name, sink);
        if (waits) {
            sink.kind().probe(sink.options(), context);
        }
        LateSink.Opener opener = () -> sink.kind().open(sink.options(), context);
        Sink made = sink.given() != null ? sink.given() : waits ? new LateSink(opener) : opener.open();
        opened.add(made::close);
        RingFile ring = null;
        if (sink.durable() && !settings.synchronous()) {
            Path handover = context.spool().resolve("handover");
            ring = RingFile.open(handover, RingFile.USUAL_CAPACITY, health::error);
            opened.add(ring);
            ring.adopt(handover, record -> EventBytes.markAsRepeat(record, 0));
        }
        pipeline.sink(name, made, sink.threshold(), health, ring, waits);
        parts.put(name, new Part(sink, health));
    }

    /** Whether a sink that goes has the same name, and so the same spool, or the same path. */
    private boolean usesFilesOfAnother(String name, SinkSettings sink) {
        return known.entrySet().stream()
                .filter(each -> each.getValue().settings().given() == null)
                .anyMatch(each -> each.getKey().equals(name)
                        || sink.options().has(FileKind.PATH)
                                && sink.options()
                                        .get(FileKind.PATH)
                                        .equals(each.getValue()
                                                .settings()
                                                .options()
                                                .get(FileKind.PATH)));
    }

    private static String described(Throwable problem) {
        if (problem instanceof IOException) {
            return problem + "; check its path and who may write there";
        }
        return problem instanceof IllegalArgumentException ? problem.getMessage() : problem.toString();
    }

    private SinkContext context(String name, SinkSettings sink, SinkHealth health) {
        Path spool =
                Path.of(SinkContext.named(settings.spoolPath().toString(), settings.service(), settings.instance()));
        return new SinkContext(
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

    private static void closeAll(List<Closeable> opened, Exception problem) {
        opened.forEach(each -> {
            try {
                each.close();
            } catch (Throwable e) {
                problem.addSuppressed(e);
            }
        });
    }
}
