package dev.graphema.lines.form;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;

import dev.graphema.condition.Name;
import dev.graphema.event.Event;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.row.Projection;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** The values that are needed are read as from the complete line. */
class NeededNamesTest {
    private static final List<String> KEYS = List.of(
            "ts",
            "severity",
            "msg",
            "lane",
            "http",
            "status",
            "error",
            "type",
            "stack",
            "trace_id",
            "spanId",
            "service",
            "host",
            "weight",
            "sequence",
            "fields",
            "failure",
            "http.code",
            "code",
            "traceparent",
            "caller",
            "held",
            "text",
            "id");
    private static final List<String> ASKED = List.of(
            "level",
            "message",
            "service",
            "instance",
            "logger",
            "thread",
            "trace",
            "span",
            "failure.type",
            "failure.message",
            "failure.fingerprint",
            "weight",
            "sequence",
            "held",
            "lane",
            "http",
            "http.code",
            "http.status.lane",
            "error",
            "error.type",
            "msg",
            "severity",
            "status",
            "lane.text",
            "fields.type",
            "text");
    private static final String[] SCALARS = {
        "\"warn\"",
        "\"B2\"",
        "12",
        "-0.50",
        "true",
        "false",
        "null",
        "\"2026-11-23T05:01:02Z\"",
        "1795442400.25",
        "\"\"",
        "\"4bf92f3577b34da6a3ce929d0e0e4736\"",
        "\"00f067aa0ba902b7\"",
        "\"PT2S\"",
        "\"caf\u00e9 \\u0041\\n\"",
        "17",
        "\"00-4bf92f3577b34da6a3ce929d0e0e4736-00f067aa0ba902b7-01\"",
        "12345678901234567890123",
        "\"lane closed\""
    };

    @Test
    void valuesAreThoseOfTheCompleteLine() throws Exception {
        for (long seed = 0; seed < 20_000; seed++) {
            Random random = new Random(seed);
            byte[] line = line(random).getBytes(StandardCharsets.UTF_8);
            Set<String> asked = Set.copyOf(some(random, ASKED));
            List<Name> names = asked.stream().map(Name::of).toList();
            List<String> fields =
                    names.stream().map(Name::field).filter(each -> each != null).toList();
            LineShape shape = LineShape.USUAL.asking(Set.copyOf(fields));
            JsonLine complete = new JsonLine(shape);
            JsonLine part = new JsonLine(shape, NeededNames.of(Projection.of(names), shape));
            Event expected = complete.read(line, 0, line.length, 7, false);
            Event read = part.read(line, 0, line.length, 7, false);
            String what = "seed " + seed + ", " + asked + ": " + new String(line, StandardCharsets.UTF_8);
            for (Name name : names) {
                assertEquals(name.value(expected), name.value(read), () -> name + " of " + what);
            }
            assertEquals(expected.epochNanos(), read.epochNanos(), what);
            assertEquals(expected.level(), read.level(), what);
            assertEquals(expected.weight(), read.weight(), what);
            assertEquals(expected.trace(), read.trace(), what);
            assertEquals(complete.damage(), part.damage(), what);
        }
    }

    @Test
    void otherValuesAreSkipped() throws Exception {
        byte[] line = "{\"ts\":\"2026-11-23T05:01:02Z\",\"level\":\"warn\",\"lane\":\"A3\",\"msg\":\"closed\"}"
                .getBytes(StandardCharsets.UTF_8);
        Projection level = Projection.of(List.of(Name.of("level")));
        Event read = new JsonLine(LineShape.USUAL, NeededNames.of(level, LineShape.USUAL))
                .read(line, 0, line.length, 0, false);
        assertEquals("warn", read.level().text());
        assertNull(read.message());
        assertFalse(read.fields().has("lane"));
    }

    @Test
    void aDamagedLineIsReadCompletelyWhateverIsNeeded() throws Exception {
        for (String damaged : List.of(
                "\"lane\":\"A\",\"lane\":\"B\"",
                "\"in\":{\"a\":1,\"a\":2}",
                "\"lane\":\"A3",
                "\"lane\":tru",
                "\"in\":{\"a\":[1,{\"b\":nope}]}",
                "\"n\":" + "1".repeat(1_200))) {
            byte[] line = ("{\"level\":\"warn\"," + damaged + "}").getBytes(StandardCharsets.UTF_8);
            JsonLine complete = new JsonLine();
            complete.read(line, 0, line.length, 0, false);
            Projection level = Projection.of(List.of(Name.of("level")));
            JsonLine part = new JsonLine(LineShape.USUAL, NeededNames.of(level, LineShape.USUAL));
            part.read(line, 0, line.length, 0, false);
            assertEquals(complete.damage(), part.damage(), damaged);
        }
    }

    private static String line(Random random) {
        StringBuilder line = new StringBuilder();
        object(random, 0, line);
        if (random.nextInt(10) == 0) {
            line.insert(random.nextInt(line.length() - 1) + 1, "},:\"x[".charAt(random.nextInt(6)));
        }
        return line.toString();
    }

    private static void object(Random random, int depth, StringBuilder to) {
        to.append('{');
        String before = "";
        for (String key : some(random, KEYS)) {
            to.append(before).append('"').append(key).append("\":");
            value(random, depth, to);
            before = random.nextInt(20) == 0 ? " , " : ",";
        }
        to.append('}');
    }

    private static void value(Random random, int depth, StringBuilder to) {
        int kind = random.nextInt(8);
        if (kind == 0 && depth < 4) {
            object(random, depth + 1, to);
        } else if (kind == 1 && depth < 4) {
            to.append('[');
            value(random, depth + 1, to);
            to.append(random.nextBoolean() ? ",2]" : "]");
        } else {
            to.append(SCALARS[random.nextInt(SCALARS.length)]);
        }
    }

    /** Returns up to seven of these, in any order; one is rarely there twice. */
    private static List<String> some(Random random, List<String> of) {
        List<String> some = new ArrayList<>();
        for (int i = random.nextInt(7) + 1; i > 0; i--) {
            String next = of.get(random.nextInt(of.size()));
            if (!some.contains(next) || random.nextInt(10) == 0) {
                some.add(next);
            }
        }
        return some;
    }
}
