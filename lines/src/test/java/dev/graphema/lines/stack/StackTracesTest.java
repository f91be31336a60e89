package dev.graphema.lines.stack;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Failure;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class StackTracesTest {
    @Test
    void theJvm() {
        Failure failure = StackTraces.parse("""
                Exception in thread "main" skerry.LaneTimeoutException: A3
                goes on
                \tat skerry.deck.Lanes.take(Lanes.java:42)
                \tat java.base/java.lang.Thread.run(Thread.java:840)
                \tat app//skerry.Main.main(Main.java)
                \tSuppressed: java.io.IOException: closed
                \t\tat a.B.c(B.java:1)
                Caused by: java.lang.IllegalStateException
                \tat a.B.c(Native Method)
                \t... 2 more
                """);

        assertEquals("skerry.LaneTimeoutException", failure.type());
        assertEquals("A3\ngoes on", failure.message());
        assertEquals(
                List.of(
                        "skerry.deck.Lanes.take(Lanes.java:42)",
                        "java.lang.Thread.run(Thread.java:840)",
                        "skerry.Main.main(Main.java)"),
                frames(failure));
        assertEquals("closed", failure.suppressed().get(0).message());
        assertEquals("java.lang.IllegalStateException", failure.cause().type());
        assertEquals(2, failure.cause().sharedFrames());
    }

    @Test
    void nodeJs() {
        Failure failure = StackTraces.parse("""
                TypeError [ERR_LANE]: lane A3 was not free
                    at Lanes.take (/srv/deck/lanes.js:1:31)
                    at new Desk (/srv/deck/desk.js:7:3)
                    at async main (file:///srv/deck/app.mjs:2:37)
                    at /srv/deck/app.js:12:5
                    at process.processTicksAndRejections (node:internal/process/task_queues:95:5)
                """);

        assertEquals("TypeError", failure.type());
        assertEquals("lane A3 was not free", failure.message());
        assertEquals("Lanes.take(/srv/deck/lanes.js:1)", frames(failure).get(0));
        assertEquals(12, failure.frames().get(3).line());
        assertEquals(5, failure.frames().size());
        assertTrue(failure.frames().stream().allMatch(frame -> frame.line() > 0 && frame.file() != null));
    }

    @Test
    void dotNet() {
        Failure failure = StackTraces.parse("""
                Unhandled exception. Skerry.LaneException: lane A3 was not free
                 ---> System.TimeoutException: no answer
                   at Skerry.Deck.Lanes.Wait(Int32 millis) in /src/Lanes.cs:line 63
                   --- End of inner exception stack trace ---
                   at Skerry.Deck.Lanes.Take(String lane, Boolean wait) in /src/Lanes.cs:line 42
                   at Skerry.Program.Main()
                """);

        assertEquals("Skerry.LaneException", failure.type());
        assertEquals("lane A3 was not free", failure.message());
        assertEquals(
                List.of("Skerry.Deck.Lanes.Take(/src/Lanes.cs:42)", "Skerry.Program.Main(unknown)"), frames(failure));
        assertEquals("System.TimeoutException", failure.cause().type());
        assertEquals(List.of("Skerry.Deck.Lanes.Wait(/src/Lanes.cs:63)"), frames(failure.cause()));
    }

    @Test
    void python() {
        Failure failure = StackTraces.parse("""
                Traceback (most recent call last):
                  File "/srv/lanes.py", line 3, in take
                    return lanes[name]
                           ~~~~~^^^^^^
                KeyError: 'A3'

                The above exception was the direct cause of the following exception:

                Traceback (most recent call last):
                  File "/srv/app.py", line 9, in <module>
                    main()
                  File "/srv/app.py", line 5, in main
                    raise deck.LaneTimeout("no lane") from e
                deck.LaneTimeout: no lane
                of two
                """);

        assertEquals("deck.LaneTimeout", failure.type());
        assertEquals("no lane\nof two", failure.message());
        assertEquals(
                List.of("/srv/app.py.main(/srv/app.py:5)", "/srv/app.py.<module>(/srv/app.py:9)"), frames(failure));
        assertEquals("KeyError", failure.cause().type());
        assertEquals("'A3'", failure.cause().message());
    }

    @Test
    void go() {
        Failure failure = StackTraces.parse("""
                panic: runtime error: index out of range [5] with length 3

                goroutine 1 [running]:
                skerry/deck.(*Lanes).Take(...)
                \t/src/deck/lanes.go:63
                main.main()
                \t/src/main.go:12 +0x1d

                goroutine 7 [chan receive]:
                main.wait()
                \t/src/main.go:30 +0x2a
                exit status 2
                """);

        assertEquals("panic", failure.type());
        assertEquals("runtime error: index out of range [5] with length 3", failure.message());
        assertEquals(
                List.of("skerry/deck.(*Lanes).Take(/src/deck/lanes.go:63)", "main.main(/src/main.go:12)"),
                frames(failure));
    }

    @ParameterizedTest
    @ValueSource(strings = {"started", "lane A3: not free", "at last", "panic: only this", "", "a.b.C", "Errors: 7"})
    void otherTextsAreNotFailures(String text) {
        assertNull(StackTraces.parse(text));
    }

    private static List<String> frames(Failure failure) {
        return failure.frames().stream().map(Failure.Frame::toString).toList();
    }
}
