package dev.graphema.propagation;

import static org.junit.jupiter.api.Assertions.assertEquals;

import dev.graphema.Context;
import dev.graphema.Logger;
import dev.graphema.Operation;
import dev.graphema.Scope;
import dev.graphema.TestRuntime;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Reports of one kind become ever rarer in a process, so each mistake is made here until it is output of. */
class MisuseTest {
    @Test
    void closingOutOfOrderIsReportedWithNamesButNoValues() {
        Event event = output("scope closed out of order", () -> {
            Scope outer = Context.open(f -> f.put("outer", "secret"));
            Scope inner = Context.open(f -> f.put("inner", 1));
            outer.close();
            inner.close();
        });

        assertEquals("context of [outer]", event.fields().get("what"));
        assertEquals(Level.WARN, event.level());
        assertEquals("dev.graphema", event.logger());
    }

    @Test
    void closingOnAnotherThreadIsReported() {
        Event event = output("scope closed by another thread", () -> {
            Scope scope = Context.open(f -> f.put("booking", 1));
            Thread other = new Thread(scope::close, "other");
            other.start();
            join(other);
        });

        assertEquals("other", event.fields().get("thread"));
    }

    @Test
    void anOperationLeftOpenWithinARequestIsReported() {
        Event event = output("scope never closed", () -> {
            Operation request = Logger.named("skerry").operation("request", name -> null);
            Logger.named("skerry").operation("forgotten");
            request.succeed();
            request.close();
        });

        assertEquals("forgotten of skerry", event.fields().get("what"));
        assertEquals(List.of(), Context.openScopes());
    }

    private static Event output(String message, Runnable mistake) {
        try (TestRuntime runtime = TestRuntime.shared()) {
            while (true) {
                mistake.run();
                for (Event event : runtime.events()) {
                    if (event.message().equals(message)) {
                        return event;
                    }
                }
            }
        }
    }

    private static void join(Thread thread) {
        try {
            thread.join();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
