package dev.graphema.sampling;

import dev.graphema.condition.Condition;
import dev.graphema.event.Draft;
import dev.graphema.event.Level;
import dev.graphema.event.TraceId;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.atomic.LongAdder;
import java.util.function.LongSupplier;

/**
 * Decides whether an event is kept, and how many it stands for. The first rule whose condition holds decides; without one, an
 * event is kept and stands for itself, and so is an error unless the rule says that it is about errors, too. Safe to share
 * between threads.
 *
 * <p>A trace's fate follows from the last 56 bits of its id, which W3C Trace Context level 2 asks to be random: a trace is
 * kept when they are at or above a threshold that grows with the rule's number. So services agree without talking, and a
 * trace that survives 1 in 100 survives 1 in 10, too. A trace that the caller has not sampled, as the flag of {@code traceparent} tells, does not survive
 * a rule that thins traces, either.
 */
public final class Sampler {
    /** Keeps everything. */
    public static final Sampler NONE = new Sampler(List.of(), () -> 0);

    private final Condition[] conditions;
    private final boolean[] errors;
    private final Thinning[] thinnings;
    private final LongAdder[] dropped;
    private final boolean[] together;
    private final boolean thinsTraces;

    /**
     * @param rules in the order in which they are asked
     * @param random 64 random bits at each call, from any thread, for events without a trace
     */
    public Sampler(List<SamplingRule> rules, LongSupplier random) {
        this(rules, random, System::nanoTime);
    }

    /** @param nanoClock as {@link System#nanoTime} */
    Sampler(List<SamplingRule> rules, LongSupplier random, LongSupplier nanoClock) {
        conditions = rules.stream().map(SamplingRule::when).toArray(Condition[]::new);
        errors = new boolean[rules.size()];
        thinnings = new Thinning[rules.size()];
        dropped = new LongAdder[rules.size()];
        together = new boolean[rules.size()];
        for (int i = 0; i < rules.size(); i++) {
            errors[i] = rules.get(i).errors();
            thinnings[i] = Thinning.of(rules.get(i), random, nanoClock);
            dropped[i] = new LongAdder();
            together[i] = rules.get(i).together();
        }
        thinsTraces = rules.stream().anyMatch(SamplingRule::together);
    }

    /** How many events this one stands for; 0 when it is dropped. */
    public long weight(Draft draft) {
        if (conditions.length == 0) {
            return 1;
        }
        boolean isError = draft.level() != null && draft.level().passes(Level.ERROR);
        for (int i = 0; i < conditions.length; i++) {
            if ((!isError || errors[i]) && conditions[i].matches(draft.soFar())) {
                TraceId trace = draft.trace();
                long weight = together[i] && draft.callerDropsTrace() ? 0 : thinnings[i].weight(draft, trace);
                if (weight == 0) {
                    dropped[i].increment();
                }
                return weight;
            }
        }
        return 1;
    }

    /**
     * Whether the trace of an event is one that is kept: it is unless a rule that is about the event drops the trace as a whole.
     * Nothing is counted.
     */
    public boolean keepsTrace(Draft draft) {
        if (!thinsTraces || draft.trace() == null) {
            return true;
        }
        for (int i = 0; i < conditions.length; i++) {
            if (conditions[i].matches(draft.soFar())) {
                return !together[i] || thinnings[i].weight(draft, draft.trace()) > 0;
            }
        }
        return true;
    }

    /** How many events each rule has dropped, in the order of the rules. */
    public List<Long> dropped() {
        return Arrays.stream(dropped).map(LongAdder::sum).toList();
    }
}
