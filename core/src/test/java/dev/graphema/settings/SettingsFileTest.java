package dev.graphema.settings;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.Condition;
import dev.graphema.event.Level;
import dev.graphema.format.Formats;
import dev.graphema.sampling.SamplingRule;
import dev.graphema.sink.ConsoleKind;
import dev.graphema.sink.FileKind;
import dev.graphema.sink.FileOptions;
import dev.graphema.sink.Route;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

class SettingsFileTest {
    private static final Map<String, String> VARIABLES = Map.of("PORT", "Brackholm");

    @Test
    void everythingThatCanBeSetIsRead() {
        Settings settings = parse("""
                service: deck
                instance: ${HOSTNAME:-deck-1}
                levels: {default: warn, skerry.deck: debug, skerry.deck.lanes: off}
                context-out: [booking, sailing]
                redaction: {detect: [payment-card]}
                sampling:
                  - {when: logger = skerry.gate and level <= info, keep: 1 in 20, together: trace}
                  - {keep: 1 in 2}
                sinks:
                  screen: {type: console, format: columns, level: info, stream: error}
                  log:
                    type: file
                    path: logs/${PORT}.jsonl
                    rotate: {at: 10MB, every: day}
                    keep: {days: 14, count: 20, total: 2GB}
                    compress: false
                    sync: true
                    permissions: rw-------
                routes:
                  - {when: level >= info, to: [screen]}
                  - {to: log}
                synchronous: true
                """);

        assertTrue(settings.synchronous());
        assertEquals("deck", settings.service());
        assertEquals("deck-1", settings.instance());
        assertEquals(Level.WARN, settings.thresholds().of("org.other"));
        assertEquals(Level.DEBUG, settings.thresholds().of("skerry.deck.Plan"));
        assertEquals(Level.OFF, settings.thresholds().of("skerry.deck.lanes"));
        assertEquals(List.of("booking", "sailing"), settings.contextOut());
        assertEquals(List.of("payment-card"), settings.redaction().detectors());
        assertEquals(
                List.of(
                        new SamplingRule(Condition.parse("logger = skerry.gate and level <= info"), 20, true),
                        new SamplingRule(Condition.EVERYTHING, 2, false)),
                settings.sampling());
        assertEquals(
                SinkSettings.console().level(Level.INFO).set(ConsoleKind.STREAM, ConsoleKind.Stream.ERROR),
                settings.sinks().get("screen"));
        assertEquals(
                SinkSettings.file(Path.of("logs/Brackholm.jsonl"))
                        .set(FileKind.ROTATE_AT, 10L * 1024 * 1024)
                        .set(FileKind.ROTATE_EVERY, FileOptions.Every.DAY)
                        .set(FileKind.KEEP_DAYS, 14)
                        .set(FileKind.KEEP_COUNT, 20)
                        .set(FileKind.KEEP_TOTAL, 2L * 1024 * 1024 * 1024)
                        .set(FileKind.COMPRESS, FileOptions.Compress.NO)
                        .set(FileKind.SYNC, true)
                        .set(FileKind.PERMISSIONS, "rw-------"),
                settings.sinks().get("log"));
        assertEquals(
                List.of(
                        new Route(Condition.parse("level >= info"), List.of("screen")),
                        new Route(Condition.EVERYTHING, List.of("log"))),
                settings.routes());
    }

    @Test
    void anEmptyFileMeansTheDefaults() {
        Settings settings = parse("# nothing yet\n");

        assertEquals(Level.INFO, settings.thresholds().of("skerry"));
        assertEquals(RedactionSettings.USUAL.detectors(), settings.redaction().detectors());
        assertEquals(
                SinkSettings.console().format(Formats.AUTO), settings.sinks().get("screen"));
    }

    @Test
    void redactionCanBeSwitchedOffInSoManyWords() {
        assertEquals(List.of(), parse("redaction: {detect: []}").redaction().detectors());
    }

    static Stream<Arguments> mistakes() {
        return Stream.of(
                mistake(
                        "sinsk: {}",
                        "1:1: unknown key \"sinsk\" in the settings: expected one of service, instance,"
                                + " levels, caller, context-out, context-in, context-hosts, trust-callers, redaction, sampling, hold-back, sinks, routes, routing, detail-from-callers, watch, spool, synchronous, include, profile, profiles; did you mean sinks?"),
                mistake("- service", "1:1: expected the settings as a mapping of names to values but found a list"),
                mistake("service: [a]", "1:10: expected the service's name but found a list"),
                mistake("service: a\nservice: b", "2:1: the key \"service\" is defined twice: expected it once"),
                mistake(
                        "instance: ${NO_SUCH}",
                        "1:11: the variable NO_SUCH is not set: expected it in the environment or"
                                + " as a system property, or a default as in ${NO_SUCH:-value}"),
                mistake("instance: ${PORT", "1:11: \"${PORT\" has a ${ without a }"),
                mistake("levels: info", "1:9: expected levels as a mapping of names to values but found \"info\""),
                mistake(
                        "levels:\n  skerry.deck: debgu",
                        "2:16: \"debgu\" is not a valid level: expected one of trace, debug, info,"
                                + " warn, error, fatal, off; did you mean debug?"),
                mistake(
                        "redaction: {detect: [mails]}",
                        "1:22: \"mails\" is not a valid detector: expected one of payment-card, iban, mail, token,"
                                + " us-ssn, secret, url, private-key, telephone, ip; did you mean mail?"),
                mistake(
                        "redaction: {detekt: []}",
                        "1:13: unknown key \"detekt\" in redaction: expected one of detect, patterns, treat, keys, sensitive,"
                                + " pseudonyms; did you mean detect?"),
                mistake(
                        "sampling: {keep: 20}",
                        "1:18: \"20\" is not a valid share: expected one such as 1 in 20, 5%, 100/s burst 500 or first 10 in 1m then 1 in 100"),
                mistake(
                        "sampling: {keep: 1 in 0}",
                        "1:18: \"1 in 0\" is not a valid share: expected one such as 1 in 20, 5%, 100/s burst 500 or first 10 in 1m then 1 in 100"),
                mistake(
                        "sampling: {when: level = info}",
                        "1:11: this sampling rule has no keep: expected" + " keep: 1 in 20 or the like"),
                mistake(
                        "sampling: {keep: 1 in 2, together: tarce}",
                        "1:36: \"tarce\" is not a valid way to share a fate: expected"
                                + " one of trace; did you mean trace?"),
                mistake(
                        "sinks:\n  log: {type: fiel, path: x}",
                        "2:15: \"fiel\" is not a valid type of sink: expected one of"
                                + " console, file; did you mean file?"),
                mistake(
                        "sinks:\n  log: {path: x}",
                        "2:8: the sink log has no type: expected type: console or type: file"),
                mistake(
                        "sinks:\n  log: {type: file}",
                        "2:8: the sink log has no path: expected a path" + " such as logs/deck.jsonl"),
                mistake(
                        "sinks:\n  log: {type: file, path: x, stream: error}",
                        "2:30: a file has no stream: expected" + " type: console, or no stream"),
                mistake(
                        "sinks:\n  screen: {type: console, path: x}",
                        "2:27: a console has no path: expected type: file," + " or no path"),
                mistake(
                        "sinks:\n  log: {type: file, path: x, format: jsno}",
                        "2:38: \"jsno\" is not a valid format: expected one of columns, json, key-value, syslog,"
                                + " otlp, auto; did you mean json?"),
                mistake(
                        "sinks: {log: }",
                        "1:13: expected the sink log as a mapping of names to values but found nothing"),
                mistake(
                        "sinks: {log: {type: file, path: x}}\nroutes: {to: lgo}",
                        "2:14: no sink is called \"lgo\":" + " expected one of log; did you mean log?"),
                mistake("routes: {to: log}", "1:14: no sink is called \"log\": expected one below sinks"),
                mistake(
                        "sinks: {log: {type: file, path: x}}\nroutes: {when: level = info}",
                        "2:9: this route leads" + " nowhere: expected to: and a list of sinks"),
                mistake(
                        "sinks: {log: {type: file, path: x}}\nroutes: {when: level >= inof, to: log}",
                        "2:16: in the"
                                + " condition, \"inof\" is not a valid level: expected one of trace, debug, info, warn, error, fatal; did"
                                + " you mean info?\n  level >= inof\n           ^"),
                mistake(
                        "routing: frist",
                        "1:10: \"frist\" is not a valid way to route: expected one of all, first; did you mean first?"),
                mistake("watch: often", "1:8: \"often\" is not a valid watch: expected a duration such as 15m or 2s"),
                mistake(
                        "detail-from-callers: yes",
                        "1:22: \"yes\" is not a valid boolean: expected one of true, false"),
                mistake("synchronous: 1", "1:14: \"1\" is not a valid boolean: expected one of true, false"),
                mistake(
                        "spool: {total: 5KB}",
                        "1:16: \"5KB\" is not a valid total: expected a size such as 50MB, 1MB or more"),
                mistake("spool: {where: x}", "1:9: unknown key \"where\" in spool: expected one of path, total"),
                mistake(
                        "sinks: {log: {type: file, path: x, rotate: {at: big}}}",
                        "1:49: \"big\" is not a valid at: expected a size such as 50MB, 1KB or more"),
                mistake(
                        "sinks: {log: {type: file, path: x, rotate: {every: wek}}}",
                        "1:52: \"wek\" is not a valid every: expected one of never, hour, day"),
                mistake(
                        "sinks: {log: {type: file, path: x, keep: {days: 0}}}",
                        "1:49: \"0\" is not a valid days: expected a whole number from 1 to 36500"),
                mistake(
                        "sinks: {log: {type: file, path: x, keep: 5}}",
                        "1:42: expected keep as a mapping of names to values but found \"5\""),
                mistake(
                        "sinks: {log: {type: file, path: x, permissions: rwx}}",
                        "1:49: permissions: \"rwx\" (expected: nine letters such as rw-r-----)"),
                mistake(
                        "sinks: {log: {type: file, path: x, zone: Mars}}",
                        "1:42: \"Mars\" is not a valid zone: expected a time zone such as UTC or Europe/Berlin"),
                mistake(
                        "sinks: {log: {type: file, path: x, durable: maybe}}",
                        "1:45: \"maybe\" is not a valid boolean: expected one of true, false"),
                mistake(
                        "sinks: {c: {type: http, url: x}}",
                        "1:19: the type of sink \"http\" comes with the library graphema-delivery: add that to the program"),
                mistake(
                        "sinks: {t: {type: sql, url: x}}",
                        "1:19: the type of sink \"sql\" comes with the library graphema-sql: add that to the program"),
                mistake(
                        "sinks: {a: {type: console, format: {type: json, shpe: {}}}}",
                        "1:49: unknown key \"shpe\" in the format json: expected one of type, id, shape; did you mean shape?"),
                mistake(
                        "sinks: {a: {type: console, format: {type: json, shape: {a: time, b: {c: {}, d: message}}}}}",
                        "1:73: the shape at b.c is empty: expected names and values, such as text: message"),
                mistake(
                        "sinks: {a: {type: console, format: {type: json, shape: {a: mesage}}}}",
                        "1:60: the shape contains \"mesage\" at a: expected one of the words time, level, service, instance,"
                                + " logger, message, thread, trace, span, parent, sequence, weight, held, id, fields, field, failure,"
                                + " failure-type, failure-message, failure-text, fingerprint, constant, number, boolean, environment, property,"
                                + " process, value; did you mean message?"),
                mistake(
                        "sinks: {a: {type: console, format: {type: json, shape: {a: [message, {b: number x}]}}}}",
                        "1:74: the shape contains \"number x\" at a[1].b: expected number and a number such as 7 or 2.5"),
                mistake(
                        "sinks: {a: {type: console, format: {type: columns, show: [time, mesage]}}}",
                        "1:58: \"mesage\" is not a valid column: expected one of fields, instance, level, logger, message, sequence,"
                                + " service, source, span, thread, time, trace, or field and the name of a field; did you mean"
                                + " message?"),
                mistake(
                        "sinks: {a: {type: console, format: {show: [time]}}}",
                        "1:36: this format has no type: expected type: columns or type: json or type: key-value or type:"
                                + " syslog or type: otlp or type: auto"),
                mistake(
                        "sinks: {a: {type: console, stream: eror}}",
                        "1:36: \"eror\" is not a valid stream: expected one of output, error; did you mean error?"),
                mistake(
                        "sinks: {a: {type: console, colour: red}}",
                        "1:28: unknown key \"colour\" in a sink of the type console: expected one of type, level, durable,"
                                + " format, stream"),
                mistake("sinks: [a]", "1:8: expected sinks as a mapping of names to values but found a list"),
                mistake("context-out: {a: b}", "1:14: expected the name of a field but found a mapping"),
                mistake("service: a\n  levels: {", "2:9: not YAML: mapping values are not allowed here"),
                mistake(
                        "levels: {default: ${LEVEL}}",
                        "1:20: not YAML: expected ',' or '}', but got { (within { }, a value with ${…} must be quoted)"),
                mistake("service: \"a", "1:12: not YAML: found unexpected end of stream"));
    }

    @ParameterizedTest
    @MethodSource("mistakes")
    void aMistakeIsNamedWithItsPlaceAndWhatWasExpected(String yaml, String problem) {
        SettingsException e = assertThrows(SettingsException.class, () -> parse(yaml));

        assertEquals("deck.yaml:" + problem, e.getMessage());
    }

    @Test
    void allMistakesAreReportedAtOnceInTheOrderOfTheFile() {
        SettingsException e = assertThrows(SettingsException.class, () -> parse("""
                        servise: deck
                        levels: {skerry: inof}
                        sinks:
                          log: {type: file}
                        routes:
                          - {when: "level >", to: [log]}
                        """));

        assertEquals(
                "1:1 2:18 4:8 6:12",
                e.problems().stream().map(p -> p.line() + ":" + p.column()).collect(Collectors.joining(" ")));
    }

    @Test
    void aConditionThatACommaCutOffGetsTheRemedy() {
        SettingsException e = assertThrows(
                SettingsException.class,
                () -> parse("sinks: {log: {type: file, path: x}}\nroutes: {when: message in (a, b), to: log}"));

        assertTrue(e.getMessage().contains("put the whole condition in quotes"), e.getMessage());
    }

    @Test
    void aFileIsReadAndOneThatIsNotThereIsReportedApart(@TempDir Path folder) throws IOException {
        Path file = Files.writeString(folder.resolve("deck.yaml"), "service: deck");

        assertEquals("deck", SettingsFile.read(file).service());
        assertThrows(NoSuchFileException.class, () -> SettingsFile.read(folder.resolve("other.yaml")));
        Files.write(file, new byte[] {'a', ':', (byte) 0xFF});
        assertEquals(
                file + ": not text in UTF-8",
                assertThrows(SettingsException.class, () -> SettingsFile.read(file))
                        .getMessage());
    }

    /** Any content of the file is rejected soon, in a few lines without control characters. */
    @Test
    void hostileFilesAreRefusedSoonAndInFewWords(@TempDir Path folder) throws IOException {
        Map<String, String> hostile = Map.of(
                "nested lists", "service: " + "[".repeat(100_000),
                "nested mappings", "a: {".repeat(25_000),
                "a long comment", "#" + "x".repeat(10_000_000),
                "many keys",
                        IntStream.range(0, 200_000)
                                .mapToObj(i -> "k" + i + ": 1\n")
                                .collect(Collectors.joining()),
                "a long value", "levels: {default: " + "x".repeat(200_000) + "}",
                "control characters", "\"\\e[2J\\u061c\\a\": 1",
                "mistakes", "levels: {" + "a: b, ".repeat(5_000) + "}");
        for (Map.Entry<String, String> each : hostile.entrySet()) {
            Path file = Files.writeString(folder.resolve("deck.yaml"), each.getValue());
            String message = assertThrows(SettingsException.class, () -> SettingsFile.read(file), each.getKey())
                    .getMessage();
            assertTrue(message.length() < 20_000, each.getKey() + ": " + message.length());
            assertTrue(
                    message.chars().noneMatch(c -> c < ' ' && c != '\n' || c == 0x61C), each.getKey() + ": " + message);
        }
        assertThrows(IOException.class, () -> SettingsFile.read(folder));
    }

    @Test
    void theBuilderRefusesWhatTheFileRefuses() {
        assertThrows(IllegalArgumentException.class, () -> Settings.builder().detect("mails"));
        assertThrows(
                IllegalArgumentException.class,
                () -> Settings.builder().console("a").console("a"));
        assertEquals(
                "a route leads to the sink \"log\": expected one of [screen]",
                assertThrows(
                                IllegalArgumentException.class,
                                () -> Settings.builder()
                                        .console("screen")
                                        .route(Condition.EVERYTHING, "log")
                                        .build())
                        .getMessage());
    }

    private static Arguments mistake(String yaml, String problem) {
        return Arguments.of(yaml, problem);
    }

    private static Settings parse(String yaml) {
        return SettingsFile.parse(yaml, "deck.yaml", VARIABLES::get);
    }
}
