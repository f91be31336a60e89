package dev.graphema.lines.form;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;

import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.lines.shape.InferredShape;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.lines.time.TimeRules;
import dev.graphema.text.Times;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Lines of text as programs write them. */
class TextLineTest {
    private static final LineShape DATED =
            LineShape.USUAL.timed(TimeRules.USUAL.near(Times.epochNanos(Instant.parse("2026-11-25T00:00:00Z"))));
    private TextLine lines = new TextLine(DATED);

    @ParameterizedTest
    @CsvSource(delimiter = '¦', quoteCharacter = '`', textBlock = """
            2026-11-23 05:01:56.022 INFO  [main] a.B - started          ¦ 2026-11-23T05:01:56.022Z ¦ info  ¦ [main] a.B - started
            2026-11-23 05:01:56,022 [main] WARN a.B - lane not free     ¦ 2026-11-23T05:01:56.022Z ¦ warn  ¦ [main] WARN a.B - lane not free
            2026-11-23 05:01:56.022 UTC [812] LOG:  ready               ¦ 2026-11-23T05:01:56.022Z ¦ info  ¦ [812] LOG:  ready
            2026-11-23 05:01:56.022 UTC [812] ERROR:  no such lane      ¦ 2026-11-23T05:01:56.022Z ¦ error ¦ [812] ERROR:  no such lane
            2026/11/23 05:01:56 [error] 31#31: open() failed            ¦ 2026-11-23T05:01:56Z     ¦ error ¦ 31#31: open() failed
            [Mon Nov 23 05:01:56.5 2026] [core:error] [pid 8] no lane   ¦ 2026-11-23T05:01:56.5Z   ¦ error ¦ [core:error] [pid 8] no lane
            [2026-11-23 05:01:56] production.WARNING: lane not free     ¦ 2026-11-23T05:01:56Z     ¦ warn  ¦ production.WARNING: lane not free
            I, [2026-11-23T05:01:56.022 #812]  INFO -- : started        ¦ 2026-11-23T05:01:56.022Z ¦ info  ¦ I, [2026-11-23T05:01:56.022 #812]  INFO -- : started
            ERROR 2026-11-23 05:01:56 no lane                           ¦ 2026-11-23T05:01:56Z     ¦ error ¦ ERROR 2026-11-23 05:01:56 no lane
            2026/11/23 05:01:56 listening on :8080                      ¦ 2026-11-23T05:01:56Z     ¦       ¦ listening on :8080
            2026-11-23 05:01:56 error opening the gate                  ¦ 2026-11-23T05:01:56Z     ¦       ¦ error opening the gate
            2026-11-23T05:01:56Z | INFO | gate | started                ¦ 2026-11-23T05:01:56Z     ¦ info  ¦ gate | started
            Nov 23 05:01:56 gate-1 sshd[812]: accepted                  ¦ 2026-11-23T05:01:56Z     ¦       ¦ accepted
            <34>Nov 23 05:01:56 gate-1 su: failed                       ¦ 2026-11-23T05:01:56Z     ¦ fatal ¦ failed
            2026-11-23T05:01:56.1+00:00 gate-1 cron[9]: (root) CMD      ¦ 2026-11-23T05:01:56.1Z   ¦       ¦ (root) CMD
            WARNING:root:disk nearly full                               ¦                          ¦ warn  ¦ root:disk nearly full
            nothing of all that                                         ¦                          ¦       ¦ nothing of all that
            """)
    void timeLevelAndMessageOfALineOfText(String line, Instant time, String level, String message) {
        Event event = read(line);

        assertEquals(time, event.hasTime() ? event.time() : null);
        assertEquals(level == null ? null : Level.of(level), event.level());
        assertEquals(message, event.message());
        assertEquals(time == null ? LineDamage.NO_TIME : null, lines.damage());
    }

    @Test
    void hostProgramAndProcessAreThoseOfTheSyslogDaemon() {
        Event event = read("Nov 23 05:01:56 gate-1 sshd[812]: accepted key=ed25519, port=50122");

        assertEquals("gate-1", event.instance());
        assertEquals("sshd", event.service());
        assertEquals(
                Map.of("process", 812L, "key", "ed25519", "port", 50122L),
                event.fields().toMap());
        Event old = read("<165>Nov 23 05:01:56 gate-1 su: failed");
        assertEquals("su", old.service());
        assertEquals(Map.of("facility", 20L, "severity", 5L), old.fields().toMap());
    }

    @Test
    void theFieldsOfAnAccessLogHaveTheirNames() {
        Event event = read("10.0.0.8 - anna [23/Nov/2026:04:54:12 +0100] \"POST /lanes?q=\\\"a\\\" HTTP/1.1\" 503 77"
                + " \"https://skerry.example/book\" \"curl/8.5.0 (x)\" 0.012");

        assertEquals(Instant.parse("2026-11-23T03:54:12Z"), event.time());
        assertEquals("POST /lanes?q=\"a\" HTTP/1.1", event.message());
        assertEquals(
                "{client=10.0.0.8, user=anna, method=POST, path=/lanes?q=\"a\", protocol=HTTP/1.1, status=503, bytes=77,"
                        + " referer=https://skerry.example/book, agent=curl/8.5.0 (x), line.rest=0.012}",
                event.fields().toString());
    }

    @Test
    void damagedStructuredDataAreReadAsFarAsPossible() {
        Event event = read("<165>1 2026-11-23T05:01:56.022Z gate-1 deck 812 LANE [lane@32473 name=\"A3\" wait=250 free]"
                + "[empty@1][names x=\"1\" x=\"2\"] lane not free");

        assertEquals(LineDamage.STRUCTURED_DATA, lines.damage());
        assertEquals("lane not free", event.message());
        assertEquals("deck", event.service());
        assertEquals(
                "{facility=20, process=812, event.kind=LANE, lane={name=A3, wait=250, free=null, enterprise=32473},"
                        + " empty={enterprise=1}, names={x=[1, 2]}, severity=5, line.damage="
                        + LineDamage.STRUCTURED_DATA.text() + "}",
                event.fields().toString());
    }

    @Test
    void aNilTimeIsNone() {
        Event event = read("<14>1 - - - - - - started");

        assertFalse(event.hasTime());
        assertEquals("started", event.message());
        assertEquals(LineDamage.NO_TIME, lines.damage());
    }

    @Test
    void aLogWithALevelBehindTheTimeHasItInSmallLettersToo() {
        lines = new TextLine(DATED.inferred(new InferredShape(Map.of(), null, true, true)));

        assertEquals(
                Level.ERROR, read("2026-11-23 05:01:56 error opening the gate").level());
        assertNull(read("2026-11-23 05:01:56 opening the gate").level());
    }

    @Test
    void theLevelInTheSecondLineOfAnEventCounts() {
        var draft = lines.read(
                "Nov 23, 2026 5:01:56 AM skerry.deck.Lanes reserve".getBytes(StandardCharsets.UTF_8), 0, 49, 0);

        assertEquals(Level.WARN, lines.complete(draft, "WARNING: lane not free").level());
    }

    @Test
    void textAroundAStackTraceIsPartOfTheMessage() {
        byte[] line = "2026-11-23 05:01:56 ERROR failed".getBytes(StandardCharsets.UTF_8);
        var draft = lines.read(line, 0, line.length, 0);
        Event event = lines.complete(draft, "before\nx.LaneException\n\tat a.B.c(B.java:1)\n\t... 2 more\nbehind");

        assertEquals("failed\nbefore\nbehind", event.message());
        assertEquals("x.LaneException", event.failure().type());
        assertEquals(2, event.failure().sharedFrames());
    }

    @Test
    void bytesThatAreNotUtf8AreReplacedAndReported() {
        byte[] bytes = "2026-11-23 05:01:56 caf? closed".getBytes(StandardCharsets.ISO_8859_1);
        bytes[23] = (byte) 0xE9;
        Event event = lines.read(bytes, 0, bytes.length, 0).finish();

        assertEquals("caf\uFFFD closed", event.message());
        assertEquals(LineDamage.NOT_UTF8, lines.damage());
    }

    private Event read(String line) {
        byte[] bytes = line.getBytes(StandardCharsets.UTF_8);
        return lines.read(bytes, 0, bytes.length, 0).finish();
    }
}
