package dev.graphema.testkit;

import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.junit.platform.engine.discovery.DiscoverySelectors.selectClass;

import dev.graphema.Context;
import dev.graphema.Logger;
import dev.graphema.Scope;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;
import org.junit.platform.testkit.engine.EngineTestKit;
import org.junit.platform.testkit.engine.Events;

class CaptureEventsTest {
    @Test
    void eachTestSeesItsOwnEventsAndScopesLeftOpenFailIt() {
        Events tests = EngineTestKit.engine("junit-jupiter")
                .selectors(selectClass(Example.class))
                .execute()
                .testEvents();

        tests.assertStatistics(statistics -> statistics.succeeded(2).failed(1));
        assertTrue(tests.failed().stream()
                .allMatch(failed -> failed.getPayload()
                        .orElseThrow()
                        .toString()
                        .contains("the test left scopes open: context of [booking]")));
    }

    /** Run only by the test above: the build does not recognise its name as that of a test. */
    @CaptureEvents
    @TestMethodOrder(MethodOrderer.OrderAnnotation.class)
    static final class Example {
        private static final Logger log = Logger.of(Example.class);
        private static Scope leak;

        @Test
        @Order(1)
        void one(EventCapture events) {
            log.debug("one");
            events.assertEmitted(1, "");
        }

        @Test
        @Order(2)
        void leavesAScopeOpen() {
            leak = Context.open(f -> f.put("booking", 1));
        }

        @Test
        @Order(3)
        void two(EventCapture events) {
            leak.close();
            log.info("two");
            events.assertEmitted(1, "message = two");
            events.assertEmitted(1, "");
        }
    }
}
