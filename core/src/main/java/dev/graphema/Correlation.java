package dev.graphema;

import dev.graphema.event.Draft;
import dev.graphema.event.Fields;
import dev.graphema.event.Level;
import dev.graphema.failure.FailurePolicy;
import dev.graphema.propagation.Baggage;
import dev.graphema.propagation.RandomIds;
import dev.graphema.propagation.ThreadFrames;
import dev.graphema.propagation.TraceParent;
import dev.graphema.propagation.TraceState;
import dev.graphema.runtime.LoggerTree;
import dev.graphema.runtime.RuntimeThresholds;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.util.List;
import java.util.function.BiConsumer;
import java.util.function.UnaryOperator;

/**
 * The request to which an event belongs, across all services: ids and state as in W3C Trace Context (level 2), and the
 * fields that travel with the request as W3C Baggage. Immutable.
 *
 * <pre>{@code
 * try (Scope scope = Correlation.resume(request::header)) {     // or begins a new trace
 *     Correlation.current().headers(outgoing::setHeader);
 * }
 * }</pre>
 *
 * <p>The settings list the fields of the context that leave the process ({@code context-out}); by default, none does. Of the
 * baggage of a caller, only listed names ({@code context-in}, by default those of {@code context-out}) become fields of the
 * context and are passed on; they do not override fields of the process.
 */
public final class Correlation {
    /** The correlation of a thread that serves no request: it has no ids and sends no headers. */
    public static final Correlation NONE = new Correlation(null, null, null, null, 0, false, null, Baggage.NONE);

    /** The header that carries trace and span ids. */
    public static final String TRACEPARENT = "traceparent";

    /** The header that carries state of other tracing systems. */
    public static final String TRACESTATE = "tracestate";

    /** The header that carries fields of the context. */
    public static final String BAGGAGE = "baggage";

    private static final int SAMPLED = 1;
    private static final int RANDOM = 2;

    /** The loggers of the runtime that started or resumed it; null for {@link #NONE}. */
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

    /** Returns the correlation of the current thread; {@link #NONE} if there is none. */
    public static Correlation current() {
        return OpenScope.correlation();
    }

    /** Starts a new trace on this thread, until the scope is closed. The context remains. */
    public static Scope begin() {
        return begin(OpenScope.tree());
    }

    static Scope begin(LoggerTree tree) {
        return OpenScope.open("correlation", Fields.NONE, started(tree, Baggage.NONE, new Draft()));
    }

    /**
     * Continues the trace of a caller's headers, as a part of the caller's span; starts a new one if they are missing or
     * invalid. Never throws an exception. This is an edge: the context and correlation of the thread before are not
     * seen within, and scopes that are opened within are closed with it.
     *
     * @param headers returns the value of the request header with this name, or null if the request has none; several headers
     *     with the same name are joined by commas
     */
    public static Scope resume(UnaryOperator<String> headers) {
        return resume(OpenScope.tree(), headers);
    }

    static Scope resume(LoggerTree tree, UnaryOperator<String> headers) {
        Correlation correlation = resumed(tree, headers, new Draft());
        return OpenScope.openEdge("correlation", correlation.outsideFields(), correlation);
    }

    /** @param first the attributes of the work that sampling rules can use: logger, level and message */
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

    /** Returns the trace id; null for {@link #NONE}. */
    public TraceId trace() {
        return trace;
    }

    /** Returns the id of the current operation; null for {@link #NONE}. */
    public SpanId span() {
        return span;
    }

    /** Returns the id of the enclosing operation, perhaps in another service; null if there is none. */
    public SpanId parent() {
        return parent;
    }

    /**
     * Returns whether the caller has marked the trace as sampled; true for a trace that started here. A trace that is not
     * sampled is dropped by sampling rules that keep or drop complete traces. Called services receive the same flag, or "not
     * sampled" if a rule here drops the trace.
     */
    public boolean sampled() {
        return (flags & SAMPLED) != 0;
    }

    /** Returns the fields of the baggage of the caller, without the level of detail that it requests. */
    Fields outsideFields() {
        Baggage fields = detail() == null
                ? baggage
                : baggage.only(name -> !name.equals(RuntimeThresholds.MARK), UnaryOperator.identity());
        return fields.fields();
    }

    /** Returns the level of detail that the caller requests; null for none. */
    String detail() {
        return baggage.get(RuntimeThresholds.MARK);
    }

    /** Passes on the names and values of the headers for an outgoing call of this thread; none for {@link #NONE}. */
    public void headers(BiConsumer<String, String> setter) {
        if (trace != null) {
            sendHeaders(setter);
        }
    }

    /**
     * As above, for a call to a host; no headers if the settings ({@code context-hosts}) do not include it.
     *
     * @param host a name or address without a port, or null if it is unknown
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

    /** Returns the value of the header {@code traceparent}; null for {@link #NONE}. */
    public String header() {
        return trace == null ? null : traceParent().toString();
    }

    /**
     * Returns the correlation of a piece of work within this one; for {@link #NONE}, that of a new trace which starts with such
     * an event.
     */
    Correlation child(LoggerTree ofWork, Draft first) {
        return trace == null
                ? started(ofWork, Baggage.NONE, first)
                : new Correlation(ofWork, trace, new SpanId(RandomIds.next()), span, flags, isDropped, state, baggage);
    }

    void mark(Draft draft) {
        draft.trace(trace, span, parent).callerDropsTrace(trace != null && !sampled());
    }

    private TraceParent traceParent() {
        // Called services are informed whether the trace is kept here.
        int sent = isDropped ? flags & ~SAMPLED : flags;
        return new TraceParent(trace, span, sent);
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

    /**
     * Returns a header, or null also if the function of the caller fails: a request must not fail because of its log.
     */
    private static String header(UnaryOperator<String> headers, String name) {
        try {
            return headers.apply(name);
        } catch (Throwable e) {
            FailurePolicy.contain(e);
            return null;
        }
    }

    /** Returns the value of {@code traceparent}, or {@code none}. */
    @Override
    public String toString() {
        return trace == null ? "none" : header();
    }
}
