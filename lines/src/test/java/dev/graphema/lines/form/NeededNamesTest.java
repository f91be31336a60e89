package dev.graphema.lines.form;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;

import dev.graphema.condition.Name;
import dev.graphema.event.Event;
import dev.graphema.lines.RandomJson;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.row.Projection;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** The values that are needed are read as from the complete line. */
class NeededNamesTest {
    @Test
    void valuesAreThoseOfTheCompleteLine() throws Exception {
        for (long seed = 0; seed < 20_000; seed++) {
            Random random = new Random(seed);
            byte[] line = RandomJson.line(random).getBytes(StandardCharsets.UTF_8);
            Set<String> asked = Set.copyOf(RandomJson.names(random));
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
}
