package dev.graphema.lines.json;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.event.Attribute;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.event.Level;
import dev.graphema.lines.form.JsonLine;
import dev.graphema.query.contract.Samples;
import dev.graphema.query.row.Projection;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ProjectedLineTest {
    private static final List<String> NAMES = List.of(
            "time",
            "level",
            "service",
            "instance",
            "logger",
            "message",
            "trace",
            "span",
            "parent",
            "thread",
            "sequence",
            "weight",
            "held",
            "event.id",
            "failure.type",
            "failure.fingerprint",
            "lane",
            "wait",
            "took",
            "share",
            "ok",
            "deck",
            "deck.plan",
            "list",
            "é",
            "none",
            "fields.level");

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6})
    void whatIsReadOfALineIsWhatTheWholeLineReports(long seed) throws Exception {
        Random random = new Random(seed);
        int partly = 0;
        for (int i = 0; i < 1_000; i++) {
            Set<Name> names = new LinkedHashSet<>();
            for (int n = random.nextInt(4); n > 0; n--) {
                names.add(Name.of(NAMES.get(random.nextInt(NAMES.size()))));
            }
            String written = Samples.text(event(random)).strip();
            byte[] line = (random.nextInt(4) == 0 ? MemberOrder.other(written, random) : written)
                    .getBytes(StandardCharsets.UTF_8);
            Event whole = new JsonLine().read(line, 0, line.length, 0, true);
            // As in a file, where other bytes are around.
            int before = random.nextInt(9);
            byte[] around = new byte[before + line.length + random.nextInt(9)];
            random.nextBytes(around);
            System.arraycopy(line, 0, around, before, line.length);
            ProjectedLine own = new ProjectedLine(Projection.of(names));
            if (!own.read(around, before, before + line.length)) {
                continue;
            }
            partly++;
            assertEquals(whole.epochNanos(), own.time());
            assertEquals(whole.weight(), own.weight());
            if (whole.weight() != 1) {
                assertEquals(whole.trace(), own.trace());
            }
            Event read = own.event();
            assertEquals(whole.epochNanos(), read.epochNanos());
            assertEquals(whole.weight(), read.weight());
            int index = 0;
            for (Name name : names) {
                String where = "seed " + seed + ", " + name + " of " + new String(line, StandardCharsets.UTF_8);
                assertEquals(name.value(whole), own.value(index++), where);
                assertEquals(name.value(whole), name.value(own.values()), where);
                if (name.attribute() != Attribute.FAILURE_FINGERPRINT) {
                    assertEquals(name.value(whole), name.value(read), where);
                }
            }
        }
        assertTrue(partly > 500, "most lines need not be read whole, but only " + partly + " were not");
    }

    @Test
    void aFingerprintIsReadOnlyInFrontOfAFailure() throws Exception {
        String begin = "{\"time\":\"2026-11-23T05:01:02.000000000Z\",\"level\":\"error\",\"message\":\"m\"";
        String failure = ",\"failure\":{\"type\":\"skerry.LaneException\",\"frames\":[]}";
        ProjectedLine own = new ProjectedLine(Projection.of(List.of(Name.of("failure.fingerprint"))));
        assertTrue(read(own, begin + ",\"fingerprint\":\"0123456789abcdef\"" + failure + "}"));
        assertEquals("0123456789abcdef", own.value(0));
        for (String unusual : List.of(
                ",\"fingerprint\":\"0123456789abcdef\"",
                failure,
                ",\"fingerprint\":\"0123\"" + failure,
                ",\"fingerprint\":\"0123456789ABCDEF\"" + failure,
                ",\"fingerprint\":\"0123456789abcdef\",\"failure\":{}",
                ",\"fingerprint\":7" + failure)) {
            assertFalse(read(own, begin + unusual + "}"), unusual);
        }
    }

    @Test
    void membersInAnotherOrderAreFound() throws Exception {
        for (String members : List.of(
                "\"message\":\"m\",\"service\":\"deck\",\"fields\":{\"lane\":\"A3\"}",
                "\"service\":\"deck\",\"weight\":3,\"message\":\"m\",\"fields\":{\"lane\":\"A3\"}",
                "\"fields\":{\"lane\":\"A3\"},\"service\":\"deck\",\"message\":\"m\"")) {
            byte[] line = line(members).getBytes(StandardCharsets.UTF_8);
            Event whole = new JsonLine().read(line, 0, line.length, 0, true);
            ProjectedLine own = new ProjectedLine(Projection.of(List.of(Name.of("service"))));
            assertTrue(
                    !own.read(line, 0, line.length)
                            || own.value(0).equals(whole.service()) && own.weight() == whole.weight(),
                    members);
        }
    }

    private static Event event(Random random) {
        Draft draft = new Draft()
                .time(Samples.START + random.nextInt(1 << 30) * 1_000L)
                .level(Level.values()[random.nextInt(6)])
                .logger("skerry." + random.nextInt(3))
                .message(text(random));
        if (random.nextBoolean()) {
            draft.service("deck").instance("deck-" + random.nextInt(3)).thread(text(random));
        }
        if (random.nextBoolean()) {
            draft.trace(
                    new TraceId(random.nextLong(), random.nextLong() | 1),
                    new SpanId(random.nextLong() | 1),
                    random.nextBoolean() ? null : new SpanId(random.nextLong() | 1));
        }
        if (random.nextInt(3) == 0) {
            draft.sequence(random.nextInt(1000) + 1)
                    .weight(random.nextInt(3) + 1)
                    .held(random.nextBoolean())
                    .run("8000000000000001");
        }
        if (random.nextInt(4) == 0) {
            draft.failure(Failure.of(new IllegalStateException(text(random), new RuntimeException())));
        }
        return draft.fields(f -> {
                    for (int i = random.nextInt(5); i > 0; i--) {
                        switch (random.nextInt(9)) {
                            case 0 -> f.put("lane", text(random));
                            case 1 -> f.put("wait", random.nextLong() >> random.nextInt(64));
                            case 2 -> f.put("took", (Object) Duration.ofNanos(random.nextLong() >>> 20));
                            case 3 -> f.put("share", random.nextGaussian());
                            case 4 -> f.put("ok", random.nextBoolean());
                            case 5 ->
                                f.group(
                                        "deck",
                                        g -> g.put("plan", random.nextInt(9)).put("x", text(random)));
                            case 6 -> f.put("list", List.of(1, text(random), Map.of("a", 2)));
                            case 7 -> f.put("é", text(random));
                            default -> f.put("level", (String) null);
                        }
                    }
                })
                .finish();
    }

    private static String text(Random random) {
        return List.of("lane not free", "", "é", "a \"b\" \\ c", "{}[],:", "PT1S", "PT60S", "line\nbreak", "A3")
                .get(random.nextInt(9));
    }

    @Test
    void oneReaderReadsLineAfterLine() {
        ProjectedLine own =
                new ProjectedLine(Projection.of(List.of(Name.of("lane"), Name.of("service"), Name.of("weight"))));
        String first = line(
                "\"service\":\"deck\",\"trace\":\"" + "1".repeat(32) + "\",\"weight\":4,\"fields\":{\"lane\":\"A3\"}");
        assertTrue(read(own, first));
        assertEquals(List.of("A3", "deck", 4L), List.of(own.value(0), own.value(1), own.value(2)));
        assertEquals("A3", own.event().fields().get("lane"));
        assertEquals("1".repeat(32), own.trace().toString());
        assertTrue(read(own, line("\"message\":\"m\"").replace("06:31:02", "06:32:59")));
        assertNull(own.value(0));
        assertNull(own.value(1));
        assertNull(own.trace());
        assertEquals(1, own.weight());
        assertEquals("2026-05-15T06:32:59.000000001Z", own.event().time().toString());
        assertTrue(own.event().fields().isEmpty());
    }

    @Test
    void theNameOfAFieldIsFoundOnlyWhereOneIs() throws Exception {
        for (String fields : List.of(
                "\"lane\":\"A3\"",
                "\"a\":\"\\\"lane\\\":1\",\"lane\":\"A3\"",
                "\"a\":\",\\\"lane\\\":1\",\"lane\":\"A3\"",
                "\"plane\":\"B\",\"lane\":\"A3\",\"lanes\":\"C\"",
                "\"a\":\"lane\",\"lane\":\"A3\",\"b\":[\"lane\",\"x\"]",
                "\"x\\\"lane\":\"B\",\"lane\":\"A3\"",
                "\"lane\":\"B\",\"lane\":\"A3\"",
                "\"g\":{\"lane\":\"B\"},\"lane\":\"A3\"",
                "\"lane\":\"A3\",\"fields\":{\"lane\":\"B\"}",
                "\"lane\":\"A3\",\"a\":\"}\"",
                "\"lane\":\"A3\",\"a\":\"{\"")) {
            ProjectedLine own = new ProjectedLine(Projection.of(List.of(Name.of("lane"))));
            String line = line("\"message\":\"m\",\"fields\":{" + fields + "}");
            assertTrue(read(own, line), line);
            assertEquals("A3", own.value(0), line);
            byte[] bytes = line.getBytes(StandardCharsets.UTF_8);
            assertEquals(
                    "A3",
                    new JsonLine()
                            .read(bytes, 0, bytes.length, 0, true)
                            .fields()
                            .get("lane"),
                    line);
        }
        ProjectedLine own = new ProjectedLine(Projection.of(List.of(Name.of("lane"))));
        assertTrue(read(own, line("\"fields\":{\"plane\":1,\"a\":\"lane\"}")));
        assertNull(own.value(0));
    }

    @Test
    void aLineThatIsNotOursIsLeftToOthers() {
        String own = Samples.text(Samples.event(1, "m")).strip();
        assertTrue(read(own));
        for (String line : List.of(
                own.replace("\"logger\"", "\"lager\""),
                own.replace("2026-05-15", "2026-13-15"),
                own.replace("T06", "T26"),
                own.replace("T06", "Tx6"),
                own.replace("T06:00", "T06:61"),
                own.replace("T06:00:00", "T06:00:62"),
                own.replace("T06:00:00", "T06:00:0x"),
                own.replace("T06:00:00.", "T06:00:00,"),
                own.replace("info", "infa"),
                own.replace("info", "note"),
                "\0".repeat(26) + own.substring(26),
                own.replace("000000Z", "00000xZ"),
                own.replace("\"level\"", "\"lavel\""),
                own.replace("}", ""),
                own + " {}",
                own.replace("\"logger\":", "\"logger\" :"),
                own.replace("}", ",\"fields\":{\"a\":1}}") + own,
                own + own,
                "{}",
                "")) {
            assertFalse(read(line), line);
        }
    }

    @Test
    void whatIsSteppedOverCannotPassForFieldsOrWeight() {
        Projection lane = Projection.of(Set.of(Name.of("lane")));
        for (String message : List.of(
                "{}",
                "{",
                "fields",
                ",\\\"fields\\\":{\\\"lane\\\":\\\"B1\\\"}",
                "\\u007b",
                "\\\\",
                "weight\\\":7",
                "\\\"weight\\\":7,")) {
            for (String rest : List.of(
                    "",
                    ",\"fields\":{\"lane\":\"A3\"}",
                    ",\"weight\":7",
                    ",\"weight\":7,\"fields\":{\"lane\":\"A3\",\"x\":{\"lane\":\"C\"}}")) {
                String line = "{\"time\":\"2026-05-15T06:31:02.000000000Z\",\"level\":\"info\",\"message\":\"" + message
                        + "\"" + rest + "}";
                byte[] bytes = line.getBytes(StandardCharsets.UTF_8);
                ProjectedLine own = new ProjectedLine(lane);
                assertTrue(own.read(bytes, 0, bytes.length), line);
                Event event = own.event();
                assertEquals(rest.contains("weight") ? 7 : 1, event.weight(), line);
                assertEquals(rest.contains("lane") ? "A3" : null, event.fields().get("lane"), line);
            }
        }
    }

    @Test
    void aConditionOnAnyTextReadsEverything() {
        assertTrue(Projection.of(Condition.parse("level = warn and not (lane = A3 or \"free\")"))
                .isAll());
        assertTrue(Projection.of(Condition.parse("\"lane free\" within 2")).isAll());
        assertEquals(
                List.of(Name.of("level"), Name.of("lane")),
                Projection.of(Condition.parse("level = warn and lane in (A3, B1)"))
                        .listed());
    }

    private static String line(String parts) {
        return "{\"time\":\"2026-05-15T06:31:02.000000001Z\",\"level\":\"info\"," + parts + "}";
    }

    private static boolean read(String line) {
        return read(new ProjectedLine(Projection.of(Set.of(Name.of("logger")))), line);
    }

    private static boolean read(ProjectedLine own, String line) {
        byte[] bytes = line.getBytes(StandardCharsets.UTF_8);
        // As in a file, where more lines follow.
        return own.read(Arrays.copyOf(bytes, bytes.length + Long.BYTES), 0, bytes.length);
    }
}
