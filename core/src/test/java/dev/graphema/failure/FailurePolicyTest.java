package dev.graphema.failure;

import static org.junit.jupiter.api.Assertions.assertDoesNotThrow;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

class FailurePolicyTest {
    @Test
    void onlyAFailureOfTheEnvironmentIsWorthTryingAgainForEver() {
        assertEquals(FailurePolicy.Cause.ENVIRONMENT, FailurePolicy.cause(new IOException()));
        assertEquals(FailurePolicy.Cause.ENVIRONMENT, FailurePolicy.cause(new UncheckedIOException(new IOException())));
        assertEquals(FailurePolicy.Cause.MACHINE, FailurePolicy.cause(new OutOfMemoryError()));
        assertEquals(FailurePolicy.Cause.MACHINE, FailurePolicy.cause(new InternalError("unsafe memory access")));
        assertEquals(FailurePolicy.Cause.CODE, FailurePolicy.cause(new StackOverflowError()));
        assertEquals(FailurePolicy.Cause.CODE, FailurePolicy.cause(new AssertionError()));
        assertEquals(FailurePolicy.Cause.CODE, FailurePolicy.cause(new NoClassDefFoundError()));
        assertEquals(FailurePolicy.Cause.CODE, FailurePolicy.cause(new Exception("checked and not declared")));
    }

    @Test
    void onlyAnExhaustedHeapReachesTheCaller() {
        assertDoesNotThrow(() -> FailurePolicy.contain(new StackOverflowError()));
        assertDoesNotThrow(() -> FailurePolicy.contain(new InternalError()));
        assertThrows(OutOfMemoryError.class, () -> FailurePolicy.contain(new OutOfMemoryError()));
    }

    @Test
    void backgroundWorkIsReportedAndAReportThatFailsIsDropped() {
        List<Throwable> reported = new ArrayList<>();
        OutOfMemoryError problem = new OutOfMemoryError();
        Runnable work = () -> {
            throw problem;
        };
        FailurePolicy.inBackground(work, reported::add);
        FailurePolicy.inBackground(work, e -> {
            throw new OutOfMemoryError();
        });

        assertEquals(List.of(problem), reported);
    }
}
