package dev.graphema.format;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.event.Level;
import dev.graphema.event.RandomFields;
import dev.graphema.text.Escapes;
import dev.graphema.text.Times;
import dev.graphema.text.Utf8Buffer;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** The formats of one line with a grammar of their own, read back by that grammar. */
class LineFormatsTest {
    /** name=value, where a value has no blanks or is quoted. */
    private static final Pattern PAIR = Pattern.compile("([^ =\"]+)=(\"(?:[^\"\\\\]|\\\\.)*\"|[^ ]*)(?: |$)");

    /** RFC 5424, section 6. */
    private static final Pattern SYSLOG = Pattern.compile(
            "<([0-9]{1,3})>1 ([0-9-]{10}T[0-9:]{8}\\.[0-9]{1,6}Z) (\\S{1,255}) (\\S{1,48}) (\\S{1,128}) (\\S{1,32}) "
                    + "(-|(?:\\[[^ =\\]\"]{1,32}(?: [^ =\\]\"]{1,32}=\"(?:[^\"\\\\\\]]|\\\\[\"\\\\\\]])*\")*\\])+)(?: (.*))?");

    private static final Pattern PARAMETER =
            Pattern.compile(" ([^ =\\]\"]{1,32})=\"((?:[^\"\\\\\\]]|\\\\[\"\\\\\\]])*)\"");

    private final Event event = new Draft()
            .time(Times.epochNanos(Instant.parse("2026-05-15T06:31:02.123456789Z")))
            .level(Level.ERROR)
            .service("deck")
            .instance("deck-2")
            .logger("skerry.deck.Lanes")
            .message("lane not free")
            .thread("deck-7")
            .trace(TraceId.parse("4bf92f3577b34da6a3ce929d0e0e4736"), SpanId.parse("00f067aa0ba902b7"), null)
            .sequence(812)
            .weight(20)
            .fields(f ->
                    f.put("lane", "A 3").put("waited", Duration.ofMillis(250)).group("deck", g -> g.put("plan", 3)))
            .failure(new Failure(
                    "skerry.LaneTimeout",
                    "lane \"A3\"",
                    List.of(new Failure.Frame("skerry.Lanes", "take", "Lanes.java", 42)),
                    0,
                    0,
                    new Failure("java.io.IOException", null, List.of(), 0, 0, null, List.of()),
                    List.of()))
            .finish();

    @Test
    void keyValueReportsAttributesFieldsAndTheFailure() {
        assertEquals(
                "time=2026-05-15T06:31:02.123456789Z level=error service=deck instance=deck-2 logger=skerry.deck.Lanes"
                        + " message=\"lane not free\" trace=4bf92f3577b34da6a3ce929d0e0e4736 span=00f067aa0ba902b7"
                        + " thread=deck-7 sequence=812 weight=20 lane=\"A 3\" waited=250ms deck.plan=3"
                        + " failure.type=skerry.LaneTimeout failure.message=\"lane \\\"A3\\\"\" failure.fingerprint="
                        + event.failure().fingerprint()
                        + " failure.at=skerry.Lanes.take(Lanes.java:42) failure.cause=java.io.IOException\n",
                written(new KeyValue(), event));
    }

    @Test
    void syslogFollowsTheProtocol() {
        String line = written(SyslogLines.of(16), event);
        Matcher matcher = SYSLOG.matcher(line.strip());

        assertTrue(matcher.matches(), line);
        assertEquals(16 * 8 + 3, Integer.parseInt(matcher.group(1)));
        assertEquals("2026-05-15T06:31:02.123456Z", matcher.group(2));
        assertEquals("deck", matcher.group(4));
        assertEquals(Long.toString(ProcessHandle.current().pid()), matcher.group(5));
        assertEquals("skerry.deck.Lanes", matcher.group(6));
        assertEquals(
                "[fields@32473 lane=\"A 3\" waited=\"250ms\" deck.plan=\"3\"][trace@32473"
                        + " trace=\"4bf92f3577b34da6a3ce929d0e0e4736\" span=\"00f067aa0ba902b7\"][meta sequenceId=\"812\"][failure@32473"
                        + " type=\"skerry.LaneTimeout\" message=\"lane \\\"A3\\\"\" fingerprint=\""
                        + event.failure().fingerprint() + "\"]",
                matcher.group(7));
        assertEquals("lane not free", matcher.group(8));
    }

    @Test
    void fieldsOfAllKindsHaveTheTextsOfColumns() {
        for (int seed = 0; seed < 500; seed++) {
            Random random = new Random(seed);
            Event some = new Draft()
                    .time(0)
                    .fields(f -> RandomFields.put(f, random, 0))
                    .finish();
            StringBuilder pairs = new StringBuilder();
            for (FieldText.Pair pair : FieldText.of(some.fields())) {
                pairs.append(' ').append(pair.name().replaceAll("[ =\"]", "_"));
                pairs.append('=').append(pair.value());
            }
            assertEquals(
                    "time=1970-01-01T00:00:00.000000000Z" + pairs + "\n",
                    written(new KeyValue(), some),
                    "seed " + seed);

            FieldText texts = new FieldText(false);
            some.fields().visit(texts);
            Matcher parameters = PARAMETER.matcher(written(SyslogLines.of(1), some));
            for (FieldText.Pair pair : texts.pairs()) {
                assertTrue(parameters.find(), pair.toString());
                assertEquals(pair.name().replaceAll("[^!#-<>-\\\\^-~]", "_"), parameters.group(1));
                assertEquals(
                        Escapes.visible(pair.value()),
                        parameters.group(2).replaceAll("\\\\([\"\\\\\\]])", "$1"),
                        "seed " + seed);
            }
            assertFalse(parameters.find());
        }
    }

    @Test
    void anEventThatReportsLittleIsStillARecord() {
        Event bare = new Draft().time(0).finish();

        assertEquals("time=1970-01-01T00:00:00.000000000Z\n", written(new KeyValue(), bare));
        assertTrue(SYSLOG.matcher(written(SyslogLines.of(1), bare).strip()).matches());
    }

    @ParameterizedTest
    @CsvSource({"FATAL, 2", "ERROR, 3", "WARN, 4", "INFO, 6", "DEBUG, 7", "TRACE, 7"})
    void severitiesAreThoseOfTheProtocol(Level level, int severity) {
        Event event = new Draft().time(0).level(level).message("m").finish();

        assertTrue(written(SyslogLines.of(0), event).startsWith("<" + severity + ">1 "));
    }

    @Test
    void aFacilityThatIsNoneIsRefused() {
        assertEquals(
                "facility: 24 (expected: 0 to 23)",
                assertThrows(IllegalArgumentException.class, () -> SyslogLines.of(24))
                        .getMessage());
    }

    @ParameterizedTest
    @ValueSource(longs = {51, 52, 53})
    void anyTextKeepsToTheGrammar(long seed) {
        Random random = new Random(seed);
        for (int i = 0; i < 400; i++) {
            String name = hostile(random);
            String value = hostile(random);
            Event hostile = new Draft()
                    .time(0)
                    .level(Level.INFO)
                    .service(value)
                    .logger(value)
                    .message(value)
                    .fields(f -> f.put(name, value).put("after", "end"))
                    .failure(new Failure(name, value, List.of(), 0, 0, null, List.of()))
                    .finish();

            String pairs = written(new KeyValue(), hostile);
            assertEquals("end", pairs(pairs).get("after"), "seed " + seed + ": " + pairs);
            assertHarmlessLine(pairs, seed);
            String syslog = written(SyslogLines.of(16), hostile);
            assertTrue(
                    SYSLOG.matcher(syslog.substring(0, syslog.length() - 1)).matches(), "seed " + seed + ": " + syslog);
            assertHarmlessLine(syslog.replace("\uFEFF", ""), seed);
        }
    }

    private static void assertHarmlessLine(String line, long seed) {
        assertEquals(line.length() - 1, line.indexOf('\n'), "seed " + seed);
        assertTrue(line.chars().allMatch(c -> c == '\n' || Escapes.isHarmless(c)), "seed " + seed + ": " + line);
    }

    private static Map<String, String> pairs(String line) {
        Map<String, String> pairs = new LinkedHashMap<>();
        Matcher matcher = PAIR.matcher(line.strip());
        int end = 0;
        while (matcher.find()) {
            assertEquals(end, matcher.start(), line);
            pairs.put(matcher.group(1), matcher.group(2));
            end = matcher.end();
        }
        assertEquals(line.strip().length(), end, line);
        return pairs;
    }

    private static String hostile(Random random) {
        String pieces = "ab\"\\ =]['\n\r\u001b\u0000é€😀\u202e,{}";
        StringBuilder text = new StringBuilder();
        for (int i = random.nextInt(10); i > 0; i--) {
            text.appendCodePoint(pieces.codePointAt(pieces.offsetByCodePoints(0, random.nextInt(20))));
        }
        return text.toString();
    }

    private static String written(Format format, Event event) {
        Utf8Buffer buffer = new Utf8Buffer(16);
        format.write(event, buffer);
        return buffer.toString();
    }
}
