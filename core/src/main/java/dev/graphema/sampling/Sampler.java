package dev.graphema.sampling;

import dev.graphema.condition.Condition;
import dev.graphema.event.Draft;
import dev.graphema.event.Level;
import dev.graphema.trace.TraceId;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.atomic.LongAdder;
import java.util.function.LongSupplier;

/**
 * Decides whether an event is kept, and determines its weight. The first rule whose condition is true decides; without
 * one, the event is kept with weight 1, and so are errors, unless the rule includes errors. Thread-safe.
 *
 * <p>Whether a trace is kept depends only on the last 56 bits of its id, which W3C Trace Context level 2 requires to be
 * random: it is kept if they are at or above a threshold, which increases with the number of the rule. Services
 * therefore agree without communication, and a trace that is kept by 1 in 100 is also kept by 1 in 10. A trace that the
 * caller has not sampled, according to the flag of {@code traceparent}, is dropped by every rule that samples traces.
 */
public final class Sampler {
    /** Keeps all events. */
    public static final Sampler NONE = new Sampler(List.of(), () -> 0);

    private final Condition[] conditions;
    private final boolean[] errors;
    private final RuleSampler[] samplers;
    private final LongAdder[] dropped;
    private final boolean[] together;
    private final boolean thinsTraces;

    /**
     * @param rules in the order of evaluation
     * @param random returns 64 random bits, on any thread, for events without a trace
     */
    public Sampler(List<SamplingRule> rules, LongSupplier random) {
        this(rules, random, System::nanoTime);
    }

    /** @param nanoClock as {@link System#nanoTime} */
    Sampler(List<SamplingRule> rules, LongSupplier random, LongSupplier nanoClock) {
        conditions = rules.stream().map(SamplingRule::when).toArray(Condition[]::new);
        errors = new boolean[rules.size()];
        samplers = new RuleSampler[rules.size()];
        dropped = new LongAdder[rules.size()];
        together = new boolean[rules.size()];
        for (int i = 0; i < rules.size(); i++) {
            errors[i] = rules.get(i).errors();
            samplers[i] = RuleSampler.of(rules.get(i), random, nanoClock);
            dropped[i] = new LongAdder();
            together[i] = rules.get(i).together();
        }
        thinsTraces = rules.stream().anyMatch(SamplingRule::together);
    }

    /** Returns the weight of the event; 0 if it is dropped. */
    public long weight(Draft draft) {
        if (conditions.length == 0) {
            return 1;
        }
        boolean isError = draft.level() != null && draft.level().passes(Level.ERROR);
        for (int i = 0; i < conditions.length; i++) {
            if ((!isError || errors[i]) && conditions[i].matches(draft)) {
                TraceId trace = draft.trace();
                long weight = together[i] && draft.callerDropsTrace() ? 0 : samplers[i].weight(draft, trace);
                if (weight == 0) {
                    dropped[i].increment();
                }
                return weight;
            }
        }
        return 1;
    }

    /**
     * Returns whether the trace of an event is kept: it is unless the rule for the event drops complete traces. Does
     * not change counts.
     */
    public boolean keepsTrace(Draft draft) {
        if (!thinsTraces || draft.trace() == null) {
            return true;
        }
        for (int i = 0; i < conditions.length; i++) {
            if (conditions[i].matches(draft)) {
                return !together[i] || samplers[i].weight(draft, draft.trace()) > 0;
            }
        }
        return true;
    }

    /** Returns how many events each rule has dropped, in the order of the rules. */
    public List<Long> dropped() {
        return Arrays.stream(dropped).map(LongAdder::sum).toList();
    }
}
