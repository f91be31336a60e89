package dev.graphema.format;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.EventBytes;
import dev.graphema.event.EventRecord;
import dev.graphema.event.Failure;
import dev.graphema.event.Level;
import dev.graphema.event.RandomFields;
import dev.graphema.terminal.Paint;
import dev.graphema.text.Escapes;
import dev.graphema.text.Times;
import dev.graphema.text.Utf8Buffer;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ColumnsTest {
    private static final ZoneId ZONE = ZoneId.of("Europe/Berlin");

    @Test
    void anEventIsOneLine() {
        Event event = draft(Level.INFO)
                .instance("deck-1")
                .fields(f -> f.put("lane", "A3")
                        .put("waited", Duration.ofMillis(2))
                        .put("remark", "two words")
                        .put("lanes", List.of("A1", Map.of("n", 2)))
                        .group("deck", g -> g.put("plan", 3)))
                .finish();

        assertEquals(
                "08:31:02.123 info  deck-1   skerry.deck.Lanes      lane taken  lane=A3 waited=2ms remark=\"two words\""
                        + " lanes=[A1, {n=2}] deck.plan=3\n",
                written(event, 0, Paint.NONE));
    }

    @Test
    void severeLevelsStandOutWithoutColour() {
        assertTrue(written(draft(Level.ERROR).finish(), 0, Paint.NONE).startsWith("08:31:02.123 ERROR -        "));
        assertTrue(written(draft(Level.DEBUG).finish(), 0, Paint.NONE).startsWith("08:31:02.123 debug -        "));
    }

    @Test
    void whatDoesNotFitGoesOnInTheNextLine() {
        Event event = draft(Level.WARN)
                .service("deck")
                .fields(f -> f.put("booking", "B0047113")
                        .put("sailing", "SK-204")
                        .put("vehicle", "coach")
                        .put("remark", "a remark that is rather long for one line"))
                .finish();

        String text = written(event, 80, Paint.NONE);

        assertEquals("""
                08:31:02.123 WARN  deck     …deck.Lanes    lane taken  booking=B0047113
                      sailing=SK-204 vehicle=coach
                      remark="a remark that is rather long for one line"
                """, text);
        assertTrue(text.lines().allMatch(line -> line.length() <= 80));
    }

    @Test
    void aFailureThatGraphemaReportsShowsNoFramesOfGraphema() {
        Failure failure = new Failure(
                "skerry.deck.LaneTimeout",
                null,
                List.of(frame("skerry.deck.Lanes", 2), frame("dev.graphema.propagation.CarryingScheduler", 3)),
                0,
                0,
                null,
                List.of());
        String text = written(
                draft(Level.ERROR).logger("dev.graphema").failure(failure).finish(), 0, Paint.NONE);
        assertTrue(text.endsWith("at skerry.deck.Lanes.step(F.java:2)\n      … 1 more frame\n"), text);
    }

    @Test
    void aFailureShowsTheOwnFramesAndFoldsTheRest() {
        Failure cause = new Failure(
                "java.util.concurrent.TimeoutException",
                "250 ms over",
                List.of(frame("java.util.Locks", 7)),
                9,
                0,
                null,
                List.of());
        Failure failure = new Failure(
                "skerry.deck.LaneTimeout",
                "lane A3",
                List.of(
                        frame("java.util.Objects", 1),
                        frame("skerry.deck.Lanes", 2),
                        frame("org.other.Thing", 3),
                        frame("skerry.deck.Plan", 4),
                        frame("skerry.deck.Desk", 5)),
                0,
                2,
                cause,
                List.of());

        String text = written(draft(Level.ERROR).failure(failure).finish(), 0, Paint.NONE);

        assertEquals("""
                    skerry.deck.LaneTimeout: lane A3
                      at java.util.Objects.step(F.java:1)
                      at skerry.deck.Lanes.step(F.java:2)
                      at skerry.deck.Plan.step(F.java:4)
                      … 4 more frames
                    caused by java.util.concurrent.TimeoutException: 250 ms over
                      at java.util.Locks.step(F.java:7)
                      … 9 more frames
                """, text.substring(text.indexOf('\n') + 1));
    }

    @Test
    void nothingInAnEventCanForgeALineOrSteerATerminal() {
        String hostile = "x\n08:31:02.123 FATAL\u001b[2J\u009b\u202e";
        Event event = draft(Level.INFO)
                .message(hostile)
                .logger(hostile)
                .service(hostile)
                .fields(f -> f.put(hostile, hostile).put("list", List.of(hostile)))
                .failure(new Failure(hostile, hostile, List.of(frame(hostile, 1)), 0, 0, null, List.of()))
                .finish();

        String text = written(event, 0, Paint.NONE);

        assertEquals(3, text.lines().count());
        assertTrue(text.chars().allMatch(c -> c == '\n' || Escapes.isHarmless(c)), text);
    }

    @Test
    void aNumberMadeToFillTheMemoryDoesNot() {
        Event event = draft(Level.INFO)
                .fields(f -> f.put("huge", new BigDecimal("1234567890123E+999999999")))
                .rewrite(text -> text)
                .finish();

        assertTrue(written(event, 0, Paint.NONE).endsWith("huge=1.234567890123E+1000000011\n"));
    }

    @Test
    void coloursOnlyRepeatWhatTheTextReports() {
        Event event = draft(Level.ERROR).fields(f -> f.put("lane", "A3")).finish();

        String coloured = written(event, 0, Paint.ANSI);

        assertTrue(coloured.contains("\u001b[1;31mERROR\u001b[0m"));
        assertEquals(written(event, 0, Paint.NONE), coloured.replaceAll("\u001b\\[[0-9;]*m", ""));
        assertFalse(written(event, 0, Paint.NONE).contains("\u001b"));
    }

    @Test
    void anEventThatReportsLittleIsShownAllTheSame() {
        Event event = new Draft().time(0).finish();

        assertEquals("01:00:00.000 -     -        -                      \n", written(event, 0, Paint.NONE));
    }

    @Test
    void theClockFollowsTheZoneAcrossDaylightSaving() {
        ClockText clock = ClockText.dateAndTime(ZONE);

        assertEquals("2026-03-29 01:59:59.999", clock.text(nanos("2026-03-29T00:59:59.999Z")));
        assertEquals("2026-03-29 03:00:00.000", clock.text(nanos("2026-03-29T01:00:00Z")));
    }

    private static Failure.Frame frame(String type, int line) {
        return new Failure.Frame(type, "step", "F.java", line);
    }

    private static long nanos(String time) {
        return Times.epochNanos(Instant.parse(time));
    }

    private static Draft draft(Level level) {
        return new Draft()
                .time(nanos("2026-05-15T06:31:02.123456789Z"))
                .level(level)
                .logger("skerry.deck.Lanes")
                .message("lane taken");
    }

    private static String written(Event event, int width, Paint paint) {
        Utf8Buffer buffer = new Utf8Buffer(16);
        Columns.of(ZONE, width, paint).write(event, buffer);
        return buffer.toString();
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 60, 120, 200})
    void recordsHaveTheLinesOfEvents(int width) {
        Columns columns = Columns.of(ZoneOffset.UTC, width, Paint.NONE);
        String[] texts = {null, "", "deck", "skerry.deck.lanes.LaneAllocation", "Tür\n\"9\"", "wave ".repeat(30)};
        for (int seed = 0; seed < 300; seed++) {
            Random random = new Random(seed);
            Draft draft = new Draft()
                    .time(random.nextLong())
                    .level(random.nextInt(8) == 0 ? null : Level.values()[random.nextInt(Level.values().length)])
                    .service(texts[random.nextInt(texts.length)])
                    .instance(texts[random.nextInt(texts.length)])
                    .logger(texts[random.nextInt(texts.length)])
                    .message(texts[random.nextInt(texts.length)])
                    .held(random.nextInt(4) == 0)
                    .fields(f -> RandomFields.put(f, random, 0));
            if (random.nextInt(4) == 0) {
                draft.failure(Failure.of(new IllegalStateException("lane not free")));
            }
            if (random.nextInt(4) == 0) {
                draft.timeless(5);
            }
            Event event = draft.finish();
            Utf8Buffer lines = new Utf8Buffer(64);
            columns.write(event, lines);
            Utf8Buffer ofRecord = new Utf8Buffer(64);
            columns.write(EventRecord.of(new EventBytes().write(event).copy()), ofRecord);
            assertEquals(lines.toString(), ofRecord.toString(), "seed " + seed);
        }
    }
}
