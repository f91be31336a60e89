package dev.graphema;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.sampling.SamplingRule;
import dev.graphema.trace.TraceId;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Sampling by trace and the flag "sampled" of W3C Trace Context, in and out. */
class SampledFlagTest {
    private static final int TRACES = 400;

    @Test
    void theSentFlagIsTheDecisionAboutTheTrace() {
        Set<TraceId> flagged = new HashSet<>();
        try (TestRuntime runtime = TestRuntime.shared(
                settings -> settings.sample(new SamplingRule(Condition.parse("level <= info"), 3, true)))) {
            Logger log = Logger.named("skerry");
            for (int i = 0; i < TRACES; i++) {
                try (Operation request = log.operation("request", name -> null)) {
                    String flag = outgoing();
                    try (Operation call = log.operation("call")) {
                        assertEquals(flag, outgoing(), "the same for every call of the request");
                        call.succeed();
                    }
                    if (flag.equals("03")) {
                        flagged.add(request.correlation().trace());
                    }
                    request.succeed();
                }
            }
            Set<TraceId> kept = new HashSet<>();
            runtime.events().forEach(event -> kept.add(event.trace()));
            assertEquals(kept, flagged);
            assertTrue(kept.size() > TRACES / 6 && kept.size() < TRACES / 2, "kept " + kept.size());
        }
    }

    @Test
    void whatTheCallerDropsIsDroppedByRulesThatThinTracesAlone() {
        String parent = "00-4bf92f3577b34da6a3ce929d0effffff-00f067aa0ba902b7-0";
        try (TestRuntime runtime = TestRuntime.shared(settings -> settings.sample(
                new SamplingRule(Condition.parse("logger = skerry.gate and level <= info"), 1, true)))) {
            Logger gate = Logger.named("skerry.gate");
            try (Scope scope = Correlation.resume(Map.of("traceparent", parent + "0")::get)) {
                assertFalse(Correlation.current().sampled());
                assertEquals("00", outgoing());
                gate.info("dropped by the caller");
                gate.error("errors stay");
                Logger.named("skerry.deck").info("no rule matches it");
            }
            try (Scope scope = Correlation.resume(Map.of("traceparent", parent + "1")::get)) {
                gate.info("kept by the caller");
                assertEquals("01", outgoing());
            }
            assertEquals(
                    List.of("errors stay", "no rule matches it", "kept by the caller"),
                    runtime.events().stream().map(Event::message).toList());
        }
    }

    @Test
    void aRuleThatIsAboutOtherEventsEmitsNothingOfTheTrace() {
        try (TestRuntime runtime = TestRuntime.shared(settings ->
                settings.sample(new SamplingRule(Condition.parse("logger = skerry.gate"), 1L << 50, true)))) {
            try (Operation request = Logger.named("skerry.booking").operation("request", name -> null)) {
                assertEquals("03", outgoing());
            }
            try (Operation request = Logger.named("skerry.gate").operation("request", name -> null)) {
                assertEquals("02", outgoing());
            }
            assertEquals(2, runtime.events().size(), "an operation that fails is an error, and stays");
        }
    }

    private static String outgoing() {
        Map<String, String> headers = new HashMap<>();
        Correlation.current().headers(headers::put);
        String parent = headers.get(Correlation.TRACEPARENT);
        assertEquals(parent, Correlation.current().header());
        return parent.substring(53);
    }
}
