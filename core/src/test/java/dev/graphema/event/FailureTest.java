package dev.graphema.event;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNotEquals;
import static org.junit.jupiter.api.Assertions.assertNotNull;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.IOException;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class FailureTest {
    @Test
    void typeMessageFramesAndCauseAreCaptured() {
        IOException cause = new IOException("connection reset");
        Failure failure = Failure.of(new IllegalStateException("deck space refused", cause));

        assertEquals("java.lang.IllegalStateException", failure.type());
        assertEquals("deck space refused", failure.message());
        assertEquals(FailureTest.class.getName(), failure.frames().get(0).type());
        assertEquals("java.io.IOException", failure.cause().type());
        assertEquals(failure.cause(), failure.root());
    }

    @Test
    void framesSharedWithTheFailureAroundAreFolded() {
        Failure failure = Failure.of(new IllegalStateException(thrownBelow()));

        assertEquals("thrownBelow", failure.cause().frames().get(0).method());
        assertTrue(failure.cause().sharedFrames() > 5);
        assertTrue(failure.cause().frames().size() <= 2);
        assertEquals(0, failure.sharedFrames());
    }

    @Test
    void cyclesOfCausesEnd() {
        Exception a = new Exception("a");
        Exception b = new Exception("b", a);
        a.initCause(b);
        a.addSuppressed(b);

        Failure failure = Failure.of(a);

        assertEquals("b", failure.cause().message());
        assertNull(failure.cause().cause());
        assertEquals(List.of(), failure.suppressed());
    }

    @Test
    void suppressedFailuresAreKept() {
        Exception failure = new Exception("write failed");
        failure.addSuppressed(new IOException("close failed"));

        assertEquals("close failed", Failure.of(failure).suppressed().get(0).message());
    }

    @Test
    void depthOfCausesAndNumberOfFramesAreBounded() {
        Throwable deep = new Exception("root");
        for (int i = 0; i < 100; i++) {
            deep = new Exception("level " + i, deep);
        }
        Exception tall = new Exception("tall");
        StackTraceElement[] stack = new StackTraceElement[1_000];
        java.util.Arrays.setAll(stack, i -> new StackTraceElement("skerry.Deep", "step", "Deep.java", i));
        tall.setStackTrace(stack);

        int causes = 0;
        for (Failure failure = Failure.of(deep); failure != null; failure = failure.cause()) {
            causes++;
        }
        assertEquals(Failure.MAX_CAUSES + 1, causes);
        assertEquals(Failure.MAX_FRAMES, Failure.of(tall).frames().size());
        assertEquals(1_000 - Failure.MAX_FRAMES, Failure.of(tall).omittedFrames());
    }

    @Test
    void aThrowableThatThrowsIsCapturedAllTheSame() {
        Failure failure = Failure.of(new RuntimeException() {
            private static final long serialVersionUID = 1;

            @Override
            public String getMessage() {
                throw new IllegalStateException();
            }

            @Override
            public synchronized Throwable getCause() {
                throw new IllegalStateException();
            }
        });

        assertEquals("(failed: java.lang.IllegalStateException)", failure.message());
        assertNull(failure.cause());
        assertNotNull(failure.frames().get(0));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "skerry.deck.Lanes.take(Lanes.java:42)",
                "skerry.deck.Lanes.take(Lanes.java)",
                "java.lang.Object.wait(native)",
                "jdk.proxy2.$Proxy7.call(unknown)",
                "not a frame at all"
            })
    void framesAreReadAsTheyAreWritten(String text) {
        assertEquals(text, Failure.Frame.parse(text).toString());
    }

    private static Exception thrownBelow() {
        return new IOException("below");
    }

    @Test
    void theFingerprintIsTheSameForOtherMessagesAndLines() {
        assertEquals(
                failure("lane A1", 42, "$Proxy7", "lambda$take$0"),
                failure("lane B2", 43, "$Proxy12", "lambda$take$1"));
        assertEquals(
                failure("x", 1, "skerry.Lanes$$Lambda/0x0000000800c8", "run"),
                failure("x", 1, "skerry.Lanes$$Lambda/0x00007f12a", "run"));
    }

    @Test
    void theFingerprintDiffersForAnotherTypeOrPlace() {
        String one = Failure.of(new IllegalStateException("x")).fingerprint();

        assertTrue(!one.equals(
                Failure.of(new IllegalStateException("x", new IOException())).fingerprint()));
        assertTrue(!one.equals(Failure.of(thrownBelow()).fingerprint()));
        assertTrue(!failure("x", 1, "skerry.Lanes", "take").equals(failure("x", 1, "skerry.Lanes", "give")));
        assertEquals(16, one.length());
    }

    private static String failure(String message, int line, String type, String method) {
        List<Failure.Frame> frames = List.of(new Failure.Frame(type, method, "Lanes.java", line));
        return new Failure("skerry.LaneTimeout", message, frames, 0, 0, null, List.of()).fingerprint();
    }

    @Test
    void theWrappersOfTheJdkDoNotChangeTheFingerprint() {
        IllegalStateException problem = new IllegalStateException("refused");
        String fingerprint = Failure.of(problem).fingerprint();

        assertEquals(
                fingerprint,
                Failure.of(new java.util.concurrent.ExecutionException(problem)).fingerprint());
        assertEquals(
                fingerprint,
                Failure.of(new java.util.concurrent.CompletionException(
                                new java.lang.reflect.InvocationTargetException(problem)))
                        .fingerprint());
        assertNotEquals(fingerprint, Failure.of(new RuntimeException(problem)).fingerprint());
    }
}
