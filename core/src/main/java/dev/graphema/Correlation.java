package dev.graphema;

import dev.graphema.event.Draft;
import dev.graphema.event.Fields;
import dev.graphema.event.Level;
import dev.graphema.event.SpanId;
import dev.graphema.event.TraceId;
import dev.graphema.failure.FailurePolicy;
import dev.graphema.propagation.Baggage;
import dev.graphema.propagation.RandomIds;
import dev.graphema.propagation.ThreadFrames;
import dev.graphema.propagation.TraceParent;
import dev.graphema.propagation.TraceState;
import dev.graphema.runtime.LoggerTree;
import dev.graphema.runtime.RuntimeThresholds;
import java.util.List;
import java.util.function.BiConsumer;
import java.util.function.UnaryOperator;

/**
 * To which request an event belongs, across all services: ids and state as in W3C Trace Context (level 2), and the fields
 * that travel with the request as W3C Baggage. Immutable.
 *
 * <pre>{@code
 * try (Scope scope = Correlation.resume(request::header)) {     // or begins a new one
 *     Correlation.current().headers(outgoing::setHeader);
 * }
 * }</pre>
 *
 * <p>Which fields of the context leave the process is an explicit list in the settings ({@code context-out}); none does by
 * default. Of what a caller sends, only listed names ({@code context-in}, by default those of {@code context-out}) become
 * fields of the context and are passed on; they hide none of the process's own.
 */
public final class Correlation {
    /** The correlation of a thread that serves no request: it has no ids and sends no headers. */
    public static final Correlation NONE = new Correlation(null, null, null, null, 0, false, null, Baggage.NONE);

    /** The header that carries trace and span ids. */
    public static final String TRACEPARENT = "traceparent";

    /** The header that carries other tracing systems' notes. */
    public static final String TRACESTATE = "tracestate";

    /** The header that carries fields of the context. */
    public static final String BAGGAGE = "baggage";

    private static final int SAMPLED = 1;
    private static final int RANDOM = 2;

    /** The loggers of the runtime that began or resumed it; null for {@link #NONE}. */
    private final LoggerTree tree;

    private final TraceId trace;
    private final SpanId span;
    private final SpanId parent;
    private final int flags;
    private final boolean isDropped;
    private final String state;
    private final Baggage baggage;

    private Correlation(
            LoggerTree tree,
            TraceId trace,
            SpanId span,
            SpanId parent,
            int flags,
            boolean isDropped,
            String state,
            Baggage baggage) {
        this.tree = tree;
        this.trace = trace;
        this.span = span;
        this.parent = parent;
        this.flags = flags;
        this.isDropped = isDropped;
        this.state = state;
        this.baggage = baggage;
    }

    /** That of the current thread; {@link #NONE} when there is none. */
    public static Correlation current() {
        return OpenScope.correlation();
    }

    /** Begins a new trace on this thread, until the scope is closed. The context stays. */
    public static Scope begin() {
        return begin(OpenScope.tree());
    }

    static Scope begin(LoggerTree tree) {
        return OpenScope.open("correlation", Fields.NONE, started(tree, Baggage.NONE, new Draft()));
    }

    /**
     * Continues the trace of a caller's headers, as a part of the caller's span; begins a new one when they are missing or
     * invalid. Never throws, whatever they contain. This is an edge: nothing that the thread stood in before is seen within,
     * and nothing that is opened within is left after.
     *
     * @param headers the value of the request header of that name, or null when the request has none; several headers of one
     *     name joined by commas
     */
    public static Scope resume(UnaryOperator<String> headers) {
        return resume(OpenScope.tree(), headers);
    }

    static Scope resume(LoggerTree tree, UnaryOperator<String> headers) {
        Correlation correlation = resumed(tree, headers, new Draft());
        return OpenScope.openEdge("correlation", correlation.baggage.fields(), correlation);
    }

    /** @param first what the work is known by: logger, level and message, if it has them */
    static Correlation resumed(LoggerTree tree, UnaryOperator<String> headers, Draft first) {
        boolean isTrusted = tree.settings().contextExchange().trustsCallers();
        Baggage baggage = isTrusted ? tree.accepted(Baggage.parse(header(headers, BAGGAGE))) : Baggage.NONE;
        tree.thresholds().marked(baggage.get(RuntimeThresholds.MARK));
        TraceParent caller = TraceParent.parse(header(headers, TRACEPARENT));
        if (caller == null) {
            return started(tree, baggage, first);
        }
        String state = isTrusted ? tree.harmless(TraceState.valid(header(headers, TRACESTATE))) : null;
        int flags = isTrusted ? caller.flags() : caller.flags() | SAMPLED;
        SpanId span = new SpanId(RandomIds.next());
        boolean dropped = isDropped(tree, first, caller.trace(), baggage);
        return new Correlation(tree, caller.trace(), span, caller.span(), flags, dropped, state, baggage);
    }

    LoggerTree tree() {
        return tree;
    }

    /** The trace, or null for {@link #NONE}. */
    public TraceId trace() {
        return trace;
    }

    /** The piece of work being done, or null for {@link #NONE}. */
    public SpanId span() {
        return span;
    }

    /** The piece of work of which that is a part, perhaps in another service; null when there is none. */
    public SpanId parent() {
        return parent;
    }

    /**
     * Whether the caller has marked the trace as sampled; true for a trace that began here. A trace that is not is dropped by sampling rules
     * that thin traces. What is called is told the same, or that it is not sampled when a rule here drops the trace.
     */
    public boolean sampled() {
        return (flags & SAMPLED) != 0;
    }

    /** The fields that came as baggage. */
    Fields outsideFields() {
        return baggage.fields();
    }

    /**
     * Hands over the headers that an outgoing call of this thread has to carry, name and value each; none for {@link #NONE}.
     */
    public void headers(BiConsumer<String, String> setter) {
        if (trace != null) {
            sendHeaders(setter);
        }
    }

    /**
     * As above, for a call to that host; no headers when the settings ({@code context-hosts}) do not include it.
     *
     * @param host a name or address without a port, or null when it is not known
     */
    public void headers(String host, BiConsumer<String, String> setter) {
        if (trace != null && tree.settings().contextExchange().sendsTo(host)) {
            sendHeaders(setter);
        }
    }

    private void sendHeaders(BiConsumer<String, String> setter) {
        setter.accept(TRACEPARENT, traceParent().toString());
        if (state != null) {
            setter.accept(TRACESTATE, state);
        }
        Level raised = tree.thresholds().raisedHere();
        Baggage leaving = raised == null ? baggage : baggage.with(RuntimeThresholds.MARK, raised.text());
        List<String> names = tree.settings().contextExchange().out();
        Fields context = names.isEmpty() ? Fields.NONE : tree.leaving(ThreadFrames.fields());
        String carried = leaving.header(context, names);
        if (carried != null) {
            setter.accept(BAGGAGE, carried);
        }
    }

    /** The value of the header {@code traceparent} for this correlation, or null for {@link #NONE}. */
    public String header() {
        return trace == null ? null : traceParent().toString();
    }

    /** A piece of work within this one; the start of a new trace, with such an event, for {@link #NONE}. */
    Correlation child(LoggerTree ofWork, Draft first) {
        return trace == null
                ? started(ofWork, Baggage.NONE, first)
                : new Correlation(ofWork, trace, new SpanId(RandomIds.next()), span, flags, isDropped, state, baggage);
    }

    void mark(Draft draft) {
        draft.trace(trace, span, parent).callerDropsTrace(trace != null && !sampled());
    }

    private TraceParent traceParent() {
        // What is called is told what becomes of the trace here.
        int told = isDropped ? flags & ~SAMPLED : flags;
        return new TraceParent(trace, span, told);
    }

    private static Correlation started(LoggerTree tree, Baggage baggage, Draft first) {
        TraceId trace = new TraceId(RandomIds.next(), RandomIds.next());
        boolean dropped = isDropped(tree, first, trace, baggage);
        SpanId span = new SpanId(RandomIds.next());
        return new Correlation(tree, trace, span, null, SAMPLED | RANDOM, dropped, null, baggage);
    }

    private static boolean isDropped(LoggerTree tree, Draft first, TraceId trace, Baggage baggage) {
        return !tree.keepsTrace(first.trace(trace, null, null).missingFields(baggage.fields()));
    }

    /** A header, or null also when the caller's function fails: a request must not fail for its log. */
    private static String header(UnaryOperator<String> headers, String name) {
        try {
            return headers.apply(name);
        } catch (Throwable e) {
            FailurePolicy.contain(e);
            return null;
        }
    }

    /** The value of {@code traceparent}, or {@code none}. */
    @Override
    public String toString() {
        return trace == null ? "none" : header();
    }
}
