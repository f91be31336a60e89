package dev.graphema.settings;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.Condition;
import dev.graphema.event.Level;
import dev.graphema.format.Formats;
import dev.graphema.format.JsonShape;
import dev.graphema.holdback.HoldBackRule;
import dev.graphema.option.Options;
import dev.graphema.sampling.SamplingRule;
import dev.graphema.sink.FileKind;
import dev.graphema.sink.FileOptions;
import dev.graphema.sink.MemorySink;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** The builder and the file are two faces of one model. */
class SettingsWriterTest {
    static IntStream seeds() {
        return IntStream.range(0, 100);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void builderAndFileMeanTheSame(int seed) {
        Random random = new Random(seed);
        Settings settings = random(random);
        Settings read = SettingsFile.parse(SettingsWriter.yaml(settings), "written.yaml", name -> null);

        assertEquals(settings.service(), read.service());
        assertEquals(settings.instance(), read.instance());
        assertEquals(settings.thresholds().byName(), read.thresholds().byName());
        assertEquals(settings.callers(), read.callers());
        assertEquals(settings.contextExchange(), read.contextExchange());
        assertEquals(settings.redaction().detectors(), read.redaction().detectors());
        assertEquals(settings.sampling(), read.sampling());
        assertEquals(settings.holdBack(), read.holdBack());
        assertEquals(settings.sinks(), read.sinks());
        assertEquals(settings.routes(), read.routes());
        assertEquals(settings.firstMatch(), read.firstMatch());
        assertEquals(settings.takesDetailMarks(), read.takesDetailMarks());
        assertEquals(settings.watchEvery(), read.watchEvery());
        assertEquals(settings.spoolPath(), read.spoolPath());
        assertEquals(settings.spoolTotal(), read.spoolTotal());
        assertEquals(settings.synchronous(), read.synchronous());
        assertEquals(SettingsWriter.yaml(settings), SettingsWriter.yaml(read));
    }

    private static Settings random(Random random) {
        Settings.Builder builder = Settings.builder();
        if (random.nextBoolean()) {
            builder.holdBack(HoldBackRule.USUAL
                    .below(Level.WARN)
                    .by("order.id")
                    .releaseWhen(Condition.parse("elapsed > 2s or level >= error"))
                    .events(random.nextInt(100) + 1)
                    .bytes(64 * 1024 * (random.nextInt(100) + 1L))
                    .time(Duration.ofMillis(random.nextInt(100_000) + 1)));
        }
        if (random.nextBoolean()) {
            builder.service("no: \"yes\" #" + random.nextInt()).instance("null");
        }
        builder.level(Level.values()[random.nextInt(7)]).level("skerry.deck", Level.DEBUG);
        if (random.nextBoolean()) {
            builder.caller("a", "b.c")
                    .contextOut("booking")
                    .detect(random.nextBoolean() ? new String[0] : new String[] {"mail"});
        }
        if (random.nextBoolean()) {
            builder.sample(new SamplingRule(
                    Condition.parse("message = \"a 'b' \\\"c\\\"\" and level <= info"),
                    1 + random.nextInt(9),
                    random.nextBoolean()));
        }
        SinkSettings file = SinkSettings.file(Path.of("logs", "{date} 'x'.jsonl"))
                .level(Level.values()[random.nextInt(7)])
                .durable(random.nextBoolean())
                .set(FileKind.ROTATE_AT, 1024L + random.nextInt(1 << 30))
                .set(FileKind.ROTATE_EVERY, FileOptions.Every.values()[random.nextInt(3)])
                .set(FileKind.COMPRESS, FileOptions.Compress.values()[random.nextInt(3)]);
        SinkSettings screen = SinkSettings.console();
        if (random.nextBoolean()) {
            file = file.format(
                    Formats.JSON,
                    Options.NONE.with(
                            Formats.SHAPE,
                            JsonShape.parse(Map.of("a", "time epoch-millis", "b", Map.of("c", "constant x: y")))));
            screen = screen.format(
                    Formats.COLUMNS,
                    Options.NONE
                            .with(Formats.SHOW, List.of("time", "field a b"))
                            .with(Formats.WIDTHS, Map.of("field a b", 7)));
        }
        builder.sink("log", file).sink("screen", screen);
        for (int i = random.nextInt(3); i > 0; i--) {
            builder.route(Condition.parse("lane in (A1, \"A 2\") or \"phrase, with\" "), "log", "screen");
        }
        return builder.firstMatch(random.nextBoolean())
                .detailFromCallers(random.nextBoolean())
                .contextIn("booking", "tenant")
                .trustCallers(random.nextBoolean())
                .contextHosts("*.skerry.example", "localhost")
                .watchEvery(Duration.ofMillis(random.nextInt(5000)))
                .spoolPath(Path.of("s p", "{service}"))
                .spoolTotal(2L * 1024 * 1024 + random.nextInt(1000))
                .synchronous(random.nextBoolean())
                .build();
    }

    @Test
    void whatOnlyTheProgramCanGiveIsNamed() {
        String yaml = SettingsWriter.yaml(Settings.builder()
                .sink("memory", new MemorySink())
                .value("tenant", event -> "north")
                .build());
        assertTrue(
                yaml.startsWith(
                        "# The program gives these sinks itself: memory\n# The program gives these values itself: tenant\n"),
                yaml);
    }

    @Test
    void variablesAreWrittenAsVariables() {
        Settings settings = SettingsFile.parse(
                "sinks: {log: {type: file, path: \"${FOLDER}/deck.jsonl\"}}", "deck.yaml", name -> "/secret");
        String yaml = SettingsWriter.yaml(settings);
        assertTrue(yaml.contains("${FOLDER}/deck.jsonl"), yaml);
        assertFalse(yaml.contains("/secret"), yaml);
    }
}
