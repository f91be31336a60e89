package dev.graphema.sampling;

import dev.graphema.event.Draft;
import dev.graphema.event.Level;
import dev.graphema.event.TraceId;
import java.util.List;
import java.util.function.LongSupplier;

/**
 * Decides whether an event is kept, and how many it stands for. The first rule whose condition holds decides; without one,
 * and always from error on, an event is kept and stands for itself. Safe to share between threads.
 *
 * <p>A trace's fate follows from the last 56 bits of its id, which W3C Trace Context level 2 asks to be random: a trace is
 * kept when they are at or above a threshold that grows with the rule's number. So services agree without talking, and a
 * trace that survives 1 in 100 survives 1 in 10, too.
 */
public final class Sampler {
    /** Keeps everything. */
    public static final Sampler NONE = new Sampler(List.of(), () -> 0);

    private static final long RANGE = 1L << 56;

    private final SamplingRule[] rules;
    private final LongSupplier random;

    /**
     * @param rules in the order in which they are asked
     * @param random 64 random bits at each call, from any thread, for events without a trace
     */
    public Sampler(List<SamplingRule> rules, LongSupplier random) {
        this.rules = rules.toArray(new SamplingRule[0]);
        this.random = random;
    }

    /** How many events this one stands for; 0 when it is dropped. */
    public long weight(Draft draft) {
        if (rules.length == 0 || draft.level() != null && draft.level().passes(Level.ERROR)) {
            return 1;
        }
        for (SamplingRule rule : rules) {
            if (rule.when().matches(draft.soFar())) {
                return isKept(rule, draft.trace()) ? rule.oneIn() : 0;
            }
        }
        return 1;
    }

    private boolean isKept(SamplingRule rule, TraceId trace) {
        long bits = rule.together() && trace != null ? trace.low() : random.getAsLong();
        return (bits & RANGE - 1) >= RANGE - RANGE / rule.oneIn();
    }
}
