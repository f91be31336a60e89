package dev.graphema.lines;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.github.luben.zstd.ZstdOutputStream;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.answer.Coverage;
import dev.graphema.text.Times;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Logs of other programs, in all supported forms. */
class ShapesTest {
    @TempDir
    Path folder;

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '\'', textBlock = """
            2026-05-15T06:31:02Z                    | 2026-05-15T06:31:02Z
            2026-05-15T07:31:02.5+01:00             | 2026-05-15T06:31:02.5Z
            2026-05-15 07:31:02.123 +0100           | 2026-05-15T06:31:02.123Z
            2026-05-15 06:31:02,123                 | 2026-05-15T06:31:02.123Z
            2026-05-15 06:31:02                     | 2026-05-15T06:31:02Z
            2026-05-15 06:31:02.123 UTC             | 2026-05-15T06:31:02.123Z
            2026-05-15T06:31:02.123+0000            | 2026-05-15T06:31:02.123Z
            15/May/2026:07:31:02 +0100              | 2026-05-15T06:31:02Z
            Fri, 15 May 2026 06:31:02 GMT           | 2026-05-15T06:31:02Z
            1778826662                              | 2026-05-15T06:31:02Z
            1778826662.5                            | 2026-05-15T06:31:02.5Z
            1778826662123                           | 2026-05-15T06:31:02.123Z
            1778826662123456                        | 2026-05-15T06:31:02.123456Z
            1778826662123456789                     | 2026-05-15T06:31:02.123456789Z
            """)
    void aMomentIsUnderstoodHoweverItIsWritten(String written, String moment) {
        long expected = Times.epochNanos(Instant.parse(moment));
        Event event = one("{\"ts\":" + (written.matches("[0-9.]+") ? written : "\"" + written + "\"") + "}");
        assertEquals(expected, event.epochNanos());
    }

    @ParameterizedTest
    @CsvSource({
        "level,INFO,info",
        "severity,Warning,warn",
        "lvl,err,error",
        "levelname,CRITICAL,fatal",
        "error_severity,LOG,info",
        "severity,PANIC,fatal",
        "level,notice,info",
        "level,verbose,trace",
        "level,30,info",
        "level,60,fatal",
        "levelno,30,warn",
        "severity,3,error",
        "severityNumber,13,warn",
        "severity_number,24,fatal"
    })
    void aLevelIsUnderstoodByNameAndByNumber(String name, String written, String level) {
        String value = written.matches("[0-9]+") ? written : "\"" + written + "\"";
        Event event = one("{\"time\":1778826662,\"" + name + "\":" + value + "}");
        assertEquals(Level.of(level), event.level());
        assertTrue(event.fields().isEmpty());
        assertEquals(
                Level.of(level), one("time=1778826662 " + name + "=" + written).level());
    }

    @Test
    void namesMeanWhatTheyUsuallyDoAlsoInGroups() {
        Event event = one(
                "{\"@timestamp\":\"2026-05-15T06:31:02Z\",\"log\":{\"level\":\"warn\",\"logger\":\"a.b\"},"
                        + "\"msg\":\"lane not free\",\"service\":{\"name\":\"deck\",\"version\":\"2.4.1\"},\"host\":{\"name\":\"h1\"},"
                        + "\"traceId\":\"4bf92f3577b34da6a3ce929d0e0e4736\",\"span_id\":\"00f067aa0ba902b7\","
                        + "\"error\":{\"type\":\"x.LaneTimeout\",\"message\":\"A3\",\"code\":7},\"lane\":\"A3\",\"thread_name\":\"t-1\"}");
        assertEquals(Level.WARN, event.level());
        assertEquals("a.b", event.logger());
        assertEquals("lane not free", event.message());
        assertEquals("deck", event.service());
        assertEquals("h1", event.instance());
        assertEquals("t-1", event.thread());
        assertEquals("4bf92f3577b34da6a3ce929d0e0e4736", event.trace().toString());
        assertEquals("00f067aa0ba902b7", event.span().toString());
        assertEquals("x.LaneTimeout", event.failure().type());
        assertEquals("A3", event.failure().message());
        assertEquals(
                "{service={version=2.4.1}, error={code=7}, lane=A3}",
                event.fields().toString());
    }

    @Test
    void ofSeveralNamesForTheSameOneCountsAndTheOthersAreFields() {
        Event event = one(
                "{\"ts\":1,\"date\":\"today\",\"time\":\"2026-05-15T06:31:02Z\",\"level\":\"loud\",\"text\":\"t\",\"message\":\"m\"}");
        assertEquals("m", event.message());
        assertNull(event.level());
        assertEquals(
                Map.of("ts", 1L, "date", "today", "text", "t", "level", "loud"),
                event.fields().toMap());
    }

    @Test
    void aPrintedFailureIsAFailureAgain() {
        Event event = one(
                "{\"time\":1778826662,\"stack_trace\":\"x.LaneTimeout: A3\\n\\tat x.Lanes.take(Lanes.java:42)\\n\\tat"
                        + " java.base/x.Y.run(Y.java:3)\\n\\t... 2 more\\nCaused by: java.io.IOException\\n\\tat a.B.c(B.java)\\n\"}");
        assertEquals("x.LaneTimeout", event.failure().type());
        assertEquals("A3", event.failure().message());
        assertEquals(
                "x.Lanes.take(Lanes.java:42)", event.failure().frames().get(0).toString());
        assertEquals("x.Y.run(Y.java:3)", event.failure().frames().get(1).toString());
        assertEquals(2, event.failure().sharedFrames());
        assertEquals("java.io.IOException", event.failure().cause().type());

        Event script = one(
                "{\"time\":1778826662,\"exc_info\":\"Traceback (most recent call last):\\n  File \\\"a.py\\\", line 3, in f\\n"
                        + "    g()\\nValueError: no lane\"}");
        assertEquals("ValueError", script.failure().type());
        assertEquals("no lane", script.failure().message());
        assertEquals("a.py.f(a.py:3)", script.failure().frames().get(0).toString());

        Event plain = one("{\"time\":1778826662,\"error\":\"no such lane\"}");
        assertEquals("no such lane", plain.failure().type(), "the shape of the text");
        assertEquals("no such lane", plain.failure().message());
    }

    @Test
    void pairsAreReadWithTheirTypes() {
        Event event = one(
                "time=\"2026-05-15T06:31:02Z\" level=warn msg=\"lane \\\"A3\\\" not free\" lane=A3 wait=250 took=1.5s share=0.5"
                        + " ok=true id=007 quoted=\"12\" empty=");
        assertEquals(Level.WARN, event.level());
        assertEquals("lane \"A3\" not free", event.message());
        assertEquals(
                "{lane=A3, wait=250, took=PT1.5S, share=0.5, ok=true, id=007, quoted=12, empty=}",
                event.fields().toString());
        assertEquals(
                "words alone", one("time=2026-05-15T06:31:02Z words alone x=1").message());
    }

    @Test
    void rfc5424IsRead() {
        Event event = one(
                "<131>1 2026-05-15T06:31:02.5Z h1 deck 812 LANE [trace@32473 trace=\"4bf92f3577b34da6a3ce929d0e0e4736\"]"
                        + "[lane@32473 name=\"A\\\"3\" wait=\"250\"] \uFEFFlane not free");
        assertEquals(Level.ERROR, event.level());
        assertEquals("deck", event.service());
        assertEquals("h1", event.instance());
        assertEquals("lane not free", event.message());
        assertEquals("4bf92f3577b34da6a3ce929d0e0e4736", event.trace().toString());
        assertEquals(
                "{facility=16, process=812, event.kind=LANE, lane={name=A\"3, wait=250, enterprise=32473}, severity=3}",
                event.fields().toString());
        assertEquals("m", one("<14>1 2026-05-15T06:31:02Z - - - - - m").message());
    }

    @Test
    void plainTextIsReadByAPatternAndItsFailuresStayTogether() throws IOException {
        String log = """
                2026-05-15 06:31:02,123 INFO  [t-1] a.B - started
                2026-05-15 06:31:03,000 ERROR [t-2] a.B - lane not free
                x.LaneTimeout: A3
                \tat x.Lanes.take(Lanes.java:42)
                2026-05-15 06:31:04,000 WARN  [t-2] a.B - several
                lines of text
                """;
        LineShape shape = LineShape.USUAL.matching(
                "^(?P<time>\\S+ \\S+) (?P<level>\\w+) +\\[(?P<thread>[^]]*)\\] (?P<logger>\\S+) - (?P<message>.*)");
        List<Event> events = all(Asked.from(stream(log), shape));
        assertEquals(3, events.size());
        assertEquals("started", events.get(0).message());
        assertEquals("x.LaneTimeout", events.get(1).failure().type());
        assertEquals(1, events.get(1).failure().frames().size());
        assertEquals("several\nlines of text", events.get(2).message());
        assertEquals("t-2", events.get(2).thread());
    }

    @Test
    void formsMayBeMixedAndTextWithoutATimeIsAnEvent() throws IOException {
        String log = """
                nonsense
                {"time":"2026-05-15T06:31:01Z","message":"json"}
                time=2026-05-15T06:31:02Z msg=pairs
                java.lang.IllegalStateException: with a failure
                \tat a.B.c(B.java:1)
                <14>1 2026-05-15T06:31:03Z - - - - - syslog
                {"time":"2026-05-15T06:31:04Z","message":"json again"}
                """;
        List<Event> events = new ArrayList<>();
        Coverage coverage = Asked.from(stream(log)).read(events::add);
        assertEquals(
                List.of("nonsense", "json", "pairs", "syslog", "json again"),
                events.stream().map(Event::message).toList());
        assertEquals("java.lang.IllegalStateException", events.get(2).failure().type());
        assertEquals(1, coverage.damagedCount());
        assertEquals(5, coverage.events());
    }

    @Test
    void stackTracesOfSeveralLanguagesBelongToTheirEvents() {
        String log = """
                2026-11-23T05:01:56Z ERROR reserve failed
                TypeError: lane A3 was not free
                    at Lanes.take (/srv/lanes.js:1:31)
                starting
                Traceback (most recent call last):
                  File "/srv/a.py", line 3, in f
                    g()
                deck.LaneTimeout: no lane
                panic: no lane

                goroutine 1 [running]:
                main.main()
                \t/src/main.go:12 +0x1d
                exit status 2
                stopped
                """;
        List<Event> events = all(Asked.from(stream(log)));

        assertEquals(
                List.of("reserve failed", "starting", "no lane", "stopped"),
                events.stream().map(Event::message).toList());
        assertEquals(Level.FATAL, events.get(2).level());
        assertEquals("TypeError", events.get(0).failure().type());
        assertEquals("deck.LaneTimeout", events.get(1).failure().type());
        assertEquals(
                "main.main(/src/main.go:12)",
                events.get(2).failure().frames().get(0).toString());
        assertNull(events.get(3).failure());
    }

    @Test
    void aMappingDefinesWhatOtherNamesMean() {
        LineShape shape = LineShape.USUAL.mapped("time=when,message=what, level=how");
        Event event = all(Asked.from(
                        stream("{\"when\":1778826662,\"what\":\"m\",\"how\":\"E\",\"message\":\"other\"}"), shape))
                .get(0);
        assertEquals("m", event.message());
        assertEquals(Level.ERROR, event.level());
        assertEquals("{message=other}", event.fields().toString());
        assertEquals(
                "\"tiem=when\" is not a valid mapping: expected one of time, level, message, logger, service, instance, thread, trace, span,"
                        + " parent, failure.type, failure.message, failure.text, field, then = and the name in the log; did you mean time?",
                assertThrows(IllegalArgumentException.class, () -> LineShape.USUAL.mapped("tiem=when"))
                        .getMessage());
        assertThrows(IllegalArgumentException.class, () -> LineShape.USUAL.matching("["));
        assertThrows(IllegalArgumentException.class, () -> LineShape.USUAL.matching("(?P<level>x)"));
    }

    @Test
    void foldersHoldFilesOfAllUsualNamesAndCompressions() throws IOException {
        String line = "{\"time\":1778826662,\"message\":\"%s\"}\n";
        Files.writeString(folder.resolve("a.log"), line.formatted("a"));
        Files.writeString(folder.resolve("b.log.1"), line.formatted("b"));
        Files.writeString(folder.resolve("c-2026-05-15.ndjson"), line.formatted("c"));
        Files.writeString(folder.resolve("notes.txt"), line.formatted("no"));
        try (OutputStream out = new ZstdOutputStream(Files.newOutputStream(folder.resolve("d.jsonl.2026-05-15.zst")))) {
            out.write(line.formatted("d").getBytes(StandardCharsets.UTF_8));
        }
        assertEquals(
                List.of("a", "b", "c", "d"),
                all(Asked.at(folder)).stream().map(Event::message).toList());
    }

    private static Event one(String line) {
        List<Event> events = all(Asked.from(stream(line)));
        assertEquals(1, events.size(), line);
        return events.get(0);
    }

    private static List<Event> all(Asked logs) {
        List<Event> events = new ArrayList<>();
        try {
            logs.read(events::add);
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
        return events;
    }

    private static ByteArrayInputStream stream(String text) {
        return new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8));
    }
}
