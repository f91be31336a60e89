package dev.graphema.explain;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.Graphema;
import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.event.FieldWriter;
import dev.graphema.event.Fields;
import dev.graphema.event.Level;
import dev.graphema.sampling.SamplingRule;
import dev.graphema.settings.Settings;
import dev.graphema.settings.SettingsFile;
import dev.graphema.settings.SinkSettings;
import dev.graphema.sink.MemorySink;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.function.Consumer;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

class ExplainerTest {
    private static final String[] LOGGERS = {"skerry", "skerry.deck", "skerry.deck.Lanes", "skerry.gate", "org.other"};
    private static final String[] CONDITIONS = {
        "",
        "level >= warn",
        "level <= info",
        "lane = A3",
        "not lane exists",
        "service = deck and level >= info",
        "logger starts \"skerry.deck\" or level >= error",
        "wait > 200ms",
        "wait between 100ms and 300ms",
        "lane in (A1, A2)"
    };

    @TempDir
    Path folder;

    static IntStream seeds() {
        return IntStream.range(0, 200);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void theExplanationIsWhatHappens(int seed) {
        Random random = new Random(seed);
        Map<String, MemorySink> sinks = new LinkedHashMap<>();
        Settings.Builder builder = Settings.builder().service(random.nextBoolean() ? "deck" : "booking");
        builder.synchronous(true).level(level(random)).firstMatch(random.nextBoolean());
        for (int i = random.nextInt(3); i > 0; i--) {
            builder.level(any(LOGGERS, random), random.nextInt(6) == 0 ? Level.OFF : level(random));
        }
        for (int i = 0; i <= random.nextInt(3); i++) {
            MemorySink sink = new MemorySink();
            sinks.put("sink" + i, sink);
            builder.sink(
                    "sink" + i, SinkSettings.given(sink).level(random.nextBoolean() ? Level.TRACE : level(random)));
        }
        for (int i = random.nextInt(4); i > 0; i--) {
            builder.route(condition(random), any(sinks.keySet().toArray(new String[0]), random));
        }
        if (random.nextBoolean()) {
            builder.sample(new SamplingRule(condition(random), 1 + random.nextInt(3), false));
        }
        Settings settings = builder.build();
        try (Graphema graphema = Graphema.isolated(given -> {})) {
            graphema.reload(settings);
            for (int i = 0; i < 50; i++) {
                compare(graphema, sinks, any(LOGGERS, random), level(random), fields(random), "seed " + seed);
            }
        }
    }

    private static void compare(
            Graphema graphema,
            Map<String, MemorySink> sinks,
            String logger,
            Level level,
            Consumer<FieldWriter> fields,
            String seed) {
        Explanation explanation = graphema.explain(logger, level, fields);
        Map<String, Integer> before = sizes(sinks);
        graphema.logger(logger).log(level, "", null, fields);
        graphema.flush(Duration.ofSeconds(5));
        List<String> got = new ArrayList<>();
        sinks.forEach((name, sink) -> {
            if (sink.events().size() > before.get(name)) {
                got.add(name);
            }
        });
        String output = seed + ": " + Fields.of(fields) + "\n" + explanation;
        if (explanation.isCertain()) {
            assertEquals(explanation.sinks(), got, output);
        } else {
            assertTrue(got.isEmpty() || got.equals(explanation.sinks()), output + " but " + got);
        }
    }

    private static Map<String, Integer> sizes(Map<String, MemorySink> sinks) {
        Map<String, Integer> sizes = new LinkedHashMap<>();
        sinks.forEach((name, sink) -> sizes.put(name, sink.events().size()));
        return sizes;
    }

    private static Consumer<FieldWriter> fields(Random random) {
        int choice = random.nextInt(4);
        int wait = random.nextInt(400);
        return f -> {
            if (choice > 0) {
                f.put("lane", "A" + choice);
            }
            if (choice > 1) {
                f.put("wait", Duration.ofMillis(wait));
            }
        };
    }

    private static Level level(Random random) {
        return Level.values()[random.nextInt(6)];
    }

    private static Condition condition(Random random) {
        return Condition.parse(any(CONDITIONS, random));
    }

    private static <T> T any(T[] values, Random random) {
        return values[random.nextInt(values.length)];
    }

    @Test
    void everyDecisionIsReportedWithItsReasonAndItsPlace() throws IOException {
        Path file = Files.writeString(folder.resolve("deck.yaml"), """
                service: deck
                levels: {default: info, skerry.deck: warn}
                sampling:
                  - {when: message = heartbeat, keep: 1 in 20}
                sinks:
                  screen: {type: console, level: error}
                  log: {type: file, path: deck.jsonl}
                routes:
                  - {when: "level >= warn and (lane = A3 or lane = A4)", to: screen}
                  - {to: log}
                """);
        String place = file.toString();
        Explanation refused = new Explainer(SettingsFile.read(file))
                .explain("skerry.deck.Lanes", Level.DEBUG, FieldsText.parse("lane=A3 wait=250ms"));
        assertEquals("""
                skerry.deck.Lanes at level debug
                  NO       threshold  debug is below warn, set for skerry.deck  (%1$s:2:25)
                  yes      sampling   no rule matches it
                  NO       route      to screen: level >= warn is false: level is debug  (%1$s:9:5)
                  yes      route      to log: matches every event  (%1$s:10:5)
                  NO       sink       screen: no route leads there  (%1$s:6:11)
                  yes      sink       log accepts every level  (%1$s:7:8)
                No sink receives it.
                To enable it
                  in the settings: levels: {skerry.deck.Lanes: debug}
                  at run time, for a limited time: graphema.threshold("skerry.deck.Lanes", Level.DEBUG, Duration.ofMinutes(10)), or setThreshold through JMX""".formatted(place), refused.toString());

        Explanation taken =
                new Explainer(SettingsFile.read(file)).explain("skerry.deck", Level.WARN, FieldsText.parse("lane=A4"));
        assertEquals(List.of("log"), taken.sinks());
        assertTrue(taken.toString().contains("lane = A4 is true: lane is A4"), taken::toString);
        assertTrue(taken.toString().contains("NO       sink       screen accepts error and above"), taken::toString);
    }

    @Test
    void whatIsSetByHandIsReportedInARunningProgram() {
        MemorySink sink = new MemorySink();
        try (Graphema graphema = Graphema.isolated(settings -> settings.sink("memory", sink))) {
            graphema.threshold("skerry", Level.DEBUG, Duration.ofMinutes(1));
            String output =
                    graphema.explain("skerry.deck", Level.DEBUG, f -> {}).toString();
            assertTrue(output.contains("debug is at or above debug, set at run time for skerry until "), output);
            assertTrue(output.endsWith("It is written to memory."), output);
        }
    }

    @Test
    void samplingIsReportedAsTheChanceThatItIs() {
        Settings settings = Settings.builder()
                .sample(new SamplingRule(Condition.parse("level <= info"), 20, true))
                .build();
        Explanation info = new Explainer(settings).explain("skerry", Level.INFO, f -> {});
        assertFalse(info.isCertain());
        assertTrue(
                info.toString().contains("perhaps  sampling   1 in 20 is kept, complete traces only"), info::toString);
        assertTrue(info.toString().endsWith("If it is kept, it is written to screen."), info::toString);
        assertTrue(
                new Explainer(settings).explain("skerry", Level.ERROR, f -> {}).isCertain());
    }

    @Test
    void fieldsAreReadAsTheyAreTyped() {
        Fields fields =
                Fields.of(FieldsText.parse("lane=A3 wait=250 slow=1.5s ok=true text=\"two \\\"words\\\"\" q=\"7\""));
        assertEquals("{lane=A3, wait=250, slow=PT1.5S, ok=true, text=two \"words\", q=7}", fields.toString());
        assertEquals("7", fields.get("q"));
        assertEquals(
                "\"what\" is not a valid field: expected one such as lane=A3",
                assertThrows(IllegalArgumentException.class, () -> FieldsText.parse("lane=A3 what"))
                        .getMessage());
    }

    @Test
    void anEventThatIsExplainedIsNotWritten() {
        MemorySink sink = new MemorySink();
        try (Graphema graphema = Graphema.isolated(settings -> settings.sink("memory", sink))) {
            graphema.explain("skerry", Level.INFO, f -> {});
            graphema.flush(Duration.ofSeconds(5));
            assertEquals(List.<Event>of(), sink.events());
        }
    }
}
