package dev.graphema.settings;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Level;
import dev.graphema.sink.FileKind;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

class SettingsSourceTest {
    @TempDir
    Path folder;

    @AfterEach
    void forget() {
        System.clearProperty(SettingsSource.PROPERTY);
        System.clearProperty(SettingsSource.PROFILE_PROPERTY);
    }

    @Test
    void whatIsIncludedLiesBelowTheFile() throws IOException {
        write(
                "common.yaml",
                "service: common\nlevels: {default: warn, skerry: debug}\nsinks: {screen: {type: console}}");
        write("files.yaml", "levels: {default: error}\nsinks: {log: {type: file, path: a.jsonl, keep: {days: 3}}}");
        Path file = write("deck.yaml", """
                include: [common.yaml, files.yaml]
                service: deck
                sinks: {log: {path: b.jsonl}}
                routes: {to: [screen, log]}
                """);

        Settings settings = SettingsSource.of(file).read();

        assertEquals("deck", settings.service());
        assertEquals(Level.ERROR, settings.thresholds().of("org"));
        assertEquals(Level.DEBUG, settings.thresholds().of("skerry.deck"));
        assertEquals(Path.of("b.jsonl"), settings.sinks().get("log").options().get(FileKind.PATH));
        assertEquals(3, settings.sinks().get("log").options().get(FileKind.KEEP_DAYS));
        assertEquals(folder.resolve("common.yaml") + ":2:25", settings.place("levels.skerry"));
    }

    @Test
    void aProfileLiesOverEverything() throws IOException {
        Path file = write("deck.yaml", """
                levels: {default: info, skerry: debug}
                profile: ${STAGE:-development}
                profiles:
                  development: {levels: {skerry: trace}}
                  production:
                    levels: {default: warn}
                    sinks: {log: {type: file, path: deck.jsonl}}
                """);
        SettingsSource source = SettingsSource.of(file, Map.of("NO", "thing")::get);

        assertEquals(Level.TRACE, source.read().thresholds().of("skerry"));
        assertEquals(Level.WARN, source.read("production").thresholds().of("org"));
        assertEquals(Level.DEBUG, source.read("production").thresholds().of("skerry"));
        assertTrue(source.read("production").sinks().containsKey("log"));
        assertEquals(
                Level.TRACE, source.read("production, development").thresholds().of("skerry"));
        assertEquals(List.of("development", "production"), source.profiles());
        System.setProperty(SettingsSource.PROFILE_PROPERTY, "production");
        assertEquals(Level.WARN, source.read().thresholds().of("org"));
        SettingsException e = assertThrows(SettingsException.class, () -> source.read("prodution"));
        assertTrue(e.getMessage().endsWith("did you mean production?"), e.getMessage());
    }

    @Test
    void theFileIsFoundByPropertyAndElseOnTheClassPath() throws IOException {
        assertTrue(SettingsSource.find().isEmpty());
        Path file = write("named.yaml", "service: named");
        System.setProperty(SettingsSource.PROPERTY, file.toString());
        assertEquals("named", SettingsSource.find().orElseThrow().read().service());
        System.clearProperty(SettingsSource.PROPERTY);

        write("graphema.yaml", "service: found");
        ClassLoader before = Thread.currentThread().getContextClassLoader();
        try (var loader =
                new java.net.URLClassLoader(new java.net.URL[] {folder.toUri().toURL()})) {
            Thread.currentThread().setContextClassLoader(loader);
            assertEquals("found", SettingsSource.find().orElseThrow().read().service());
        } finally {
            Thread.currentThread().setContextClassLoader(before);
        }
    }

    @Test
    void aChangeOfAnIncludedFileIsNoticed() throws IOException {
        write("common.yaml", "service: one");
        SettingsSource source = SettingsSource.of(write("deck.yaml", "include: common.yaml"));
        source.read();
        assertFalse(source.hasChanged());
        write("common.yaml", "service: two");
        assertTrue(source.hasChanged());
        assertEquals("two", source.read().service());
        assertFalse(source.hasChanged());
    }

    static Stream<Arguments> mistakes() {
        return Stream.of(
                Arguments.of(
                        "include: nothing.yaml", "1:10: \"nothing.yaml\" is not there: expected a settings file at "),
                Arguments.of("include: deck.yaml", "1:10: \"deck.yaml\" leads back to a file that includes this one"),
                Arguments.of("include: {a: b}", "1:10: expected the path of a settings file but found a mapping"),
                Arguments.of("profile: a", "1:10: there are no profiles: expected one below profiles"),
                Arguments.of(
                        "profiles: [a]", "1:11: expected profiles as a mapping of names to values but found a list"),
                Arguments.of(
                        "profile: a\nprofiles: {a: b}",
                        "2:15: expected the profile a as a mapping of names to values but found \"b\""),
                Arguments.of(
                        "profile: a\nprofiles: {a: {levels: {default: inof}}}", "2:34: \"inof\" is not a valid level"),
                Arguments.of(
                        "service: a\nservice: b\nprofile: x\nprofiles: {x: {}}",
                        "2:1: the key \"service\" is defined twice"));
    }

    @ParameterizedTest
    @MethodSource("mistakes")
    void mistakesAreReportedAtTheirPlace(String yaml, String output) throws IOException {
        Path file = write("deck.yaml", yaml);
        SettingsException e = assertThrows(
                SettingsException.class, () -> SettingsSource.of(file).read());
        assertTrue(e.getMessage().startsWith(file + ":" + output), e.getMessage());
    }

    @Test
    void aMistakeInAnIncludedFileNamesThatFile() throws IOException {
        Path common = write("common.yaml", "levels: {default: inof}");
        Path file = write("deck.yaml", "include: common.yaml");
        SettingsException e = assertThrows(
                SettingsException.class, () -> SettingsSource.of(file).read());
        assertTrue(e.getMessage().startsWith(common + ":1:19: "), e.getMessage());
    }

    @Test
    void aValueFromOutsideIsNeverShown() throws IOException {
        for (String yaml : List.of(
                "levels: {default: \"${SECRET}\"}",
                "sinks: {log: {type: file, path: x, keep: {days: \"${SECRET}\"}}}",
                "sinks: {log: {type: \"${SECRET}\"}}",
                "routes: {when: \"${SECRET}\", to: a}",
                "sampling: {keep: \"${SECRET}\"}",
                "redaction: {detect: \"${SECRET}\"}")) {
            Path file = write("deck.yaml", yaml);
            SettingsException e = assertThrows(
                    SettingsException.class,
                    () -> SettingsSource.of(file, name -> "an chor").read());
            assertFalse(e.getMessage().contains("chor"), e.getMessage());
            assertTrue(e.getMessage().contains("${SECRET}"), e.getMessage());
        }
    }

    private Path write(String name, String text) throws IOException {
        return Files.writeString(folder.resolve(name), text);
    }
}
