package dev.graphema.explain;

import static org.junit.jupiter.api.Assertions.assertEquals;

import dev.graphema.settings.SettingsFile;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

class ReviewTest {
    private static final String SINKS = "sinks: {a: {type: console}, b: {type: console}}\n";

    @TempDir
    Path folder;

    static Stream<Arguments> settings() {
        return Stream.of(
                review("no remark", "service: deck"),
                review(
                        "a contradiction",
                        SINKS + "routes:\n- {when: level >= warn and level < info, to: a}\n- {to: [a, b]}",
                        "3:3: this route matches no event: level >= warn and level < info can never be true here"),
                review(
                        "another service",
                        SINKS + "service: deck\nroutes:\n- {when: service = booking, to: a}\n- {to: [a, b]}",
                        "4:3: this route matches no event: service = booking can never be true here"),
                review(
                        "hidden by the threshold",
                        SINKS + "routes:\n- {when: level < info, to: a}\n- {to: [a, b]}",
                        "3:3: this route matches trace, debug alone, and no threshold accepts events below info:"
                                + " lower one in levels"),
                review(
                        "hidden in part",
                        SINKS + "levels:\n  default: info\nroutes:\n- {when: level >= debug, to: a}\n- {to: [a, b]}",
                        "5:3: this route matches debug, and no threshold accepts events below info (3:3): lower one in"
                                + " levels"),
                review(
                        "not hidden for one branch",
                        SINKS + "levels: {x: debug}\nroutes:\n- {when: level >= debug, to: a}\n- {to: [a, b]}"),
                review("what is unimportant", SINKS + "routes:\n- {when: level <= info, to: a}\n- {to: [a, b]}"),
                review(
                        "hidden by the sink",
                        "sinks: {a: {type: console, level: error}}\nroutes: {when: level >= warn, to: a}",
                        "2:9: this route sends warn to a, which accepts error and above (1:12): lower the level of the sink, or"
                                + " restrict the route"),
                review(
                        "almost default",
                        "levels: {defualt: info, skerry.deck: debug}",
                        "1:10: \"defualt\" is the threshold of a logger with this name; did you mean default?"),
                review("hold-back", "levels: {x: debug}\nhold-back: {below: info}"),
                review(
                        "hold-back of nothing",
                        "hold-back: {below: info}",
                        "1:12: nothing is ever held back: it concerns events below info, and no threshold accepts events below"
                                + " info: lower one in levels"),
                review(
                        "hold-back for ever",
                        "service: deck\nlevels: {x: debug}\nhold-back: {release-when: service = gate}",
                        "3:12: nothing that is held back is ever released: service = gate can never be true here"),
                review(
                        "no route",
                        SINKS + "routes: {to: a}",
                        "1:32: no event reaches the sink b: add a route to it, or remove it"),
                review(
                        "only a route that takes nothing",
                        SINKS + "routes:\n- {when: not level exists, to: a}\n- {to: b}",
                        "3:3: this route matches no event: not level exists can never be true here",
                        "1:12: no event reaches the sink a: add a route to it, or remove it"),
                review(
                        "off",
                        "sinks: {a: {type: console, level: off}}",
                        "1:12: the sink a is off and receives no events: set its level, or remove it"),
                review(
                        "never evaluated",
                        SINKS + "routing: first\nroutes:\n- {to: a}\n- {when: level >= warn, to: b}",
                        "5:3: this route is never evaluated: an earlier one matches every event, and routing is first."
                                + " Move it before that one",
                        "1:32: no event reaches the sink b: add a route to it, or remove it"),
                review(
                        "rules",
                        "sampling:\n- {when: level >= error, keep: 1 in 2}\n- {when: level < info, keep: 1 in 2}\n"
                                + "- {keep: 1 in 2}\n- {when: lane = A3, keep: 1 in 2}",
                        "2:3: this sampling rule matches only errors, which it does not sample: add errors: true, or remove it",
                        "3:3: this sampling rule matches trace, debug alone, and no threshold accepts events below info:"
                                + " lower one in levels",
                        "5:3: this sampling rule is never evaluated: an earlier one matches every event. Move it up"));
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("settings")
    void whatCannotMatchIsReportedWithItsPlace(String name, String yaml, List<String> findings) throws IOException {
        Path file = Files.writeString(folder.resolve("deck.yaml"), yaml);
        assertEquals(
                findings,
                Review.of(SettingsFile.read(file)).stream()
                        .map(finding -> finding.toString().replace(file + ":", ""))
                        .toList());
    }

    private static Arguments review(String name, String yaml, String... findings) {
        return Arguments.of(name, yaml, List.of(findings));
    }
}
