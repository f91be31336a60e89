package dev.graphema.benchmarks;

import dev.graphema.Context;
import dev.graphema.Correlation;
import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.Scope;
import dev.graphema.condition.Condition;
import dev.graphema.event.Level;
import dev.graphema.holdback.HoldBackRule;
import dev.graphema.sampling.SamplingRule;
import dev.graphema.settings.SinkSettings;
import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.Set;
import java.util.stream.Stream;

/** A runtime with one file sink, the context of events, and the event of the benchmarks. */
final class Setting implements Closeable {
    /** The features that can be enabled. */
    enum Feature {
        CONTEXT,
        TRACE,
        REDACTION,
        SAMPLING,
        ROUTE,
        DURABLE,
        HOLD_BACK
    }

    /** The features that are enabled by default, within a request. */
    static final Set<Feature> USUAL = EnumSet.of(Feature.CONTEXT, Feature.TRACE, Feature.REDACTION);

    private static final Duration LONGEST_FLUSH = Duration.ofSeconds(30);

    private final Path folder;
    private final Graphema graphema;
    private final Logger log;

    Setting(Set<Feature> features) throws IOException {
        folder = Files.createTempDirectory("graphema-benchmark");
        SinkSettings file = SinkSettings.file(folder.resolve("log.jsonl")).durable(features.contains(Feature.DURABLE));
        graphema = Graphema.build(settings -> {
            settings.service("deck")
                    .instance("deck-1")
                    .spoolPath(folder.resolve("spool"))
                    .sink("log", file);
            if (!features.contains(Feature.REDACTION)) {
                settings.detect();
            }
            if (features.contains(Feature.SAMPLING)) {
                settings.sample(new SamplingRule(Condition.parse("logger = skerry.gate"), 20, true));
            }
            if (features.contains(Feature.ROUTE)) {
                settings.route(Condition.parse("level >= info and service = deck and lock_wait_ms < 250"), "log");
            }
            if (features.contains(Feature.HOLD_BACK)) {
                settings.level(Level.DEBUG).holdBack(HoldBackRule.USUAL);
            }
        });
        log = Logger.named("skerry.deck.Lanes");
    }

    /** The scopes of the thread, to be closed by it. */
    static Scope surroundings(Set<Feature> features) {
        Scope trace = features.contains(Feature.TRACE) ? Correlation.begin() : () -> {};
        Scope context = features.contains(Feature.CONTEXT)
                ? Context.open(f ->
                        f.put("booking", "B0047113").put("sailing", "SK-204").put("tenant", "skerry"))
                : () -> {};
        return () -> {
            context.close();
            trace.close();
        };
    }

    /** Adds four fields. */
    void emit(Level level) {
        log.log(
                level,
                "lane taken",
                null,
                f -> f.put("lane", "A3")
                        .put("lock_wait_ms", 2)
                        .put("vehicle", "coach")
                        .put("length_m", 12.5));
    }

    Logger log() {
        return log;
    }

    /** Waits until all events are written. */
    void flush() {
        if (!graphema.flush(LONGEST_FLUSH)) {
            throw new IllegalStateException("the emitted events were not written in time");
        }
    }

    /** Returns the number of lost events. */
    long lost() {
        return graphema.lost().values().stream()
                .flatMap(levels -> levels.values().stream())
                .mapToLong(Long::longValue)
                .sum();
    }

    @Override
    public void close() throws IOException {
        graphema.close();
        delete(folder);
    }

    static void delete(Path folder) throws IOException {
        try (Stream<Path> files = Files.walk(folder)) {
            for (Path each : files.sorted(Comparator.reverseOrder()).toList()) {
                Files.deleteIfExists(each);
            }
        }
    }
}
