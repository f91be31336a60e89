package dev.graphema;

import dev.graphema.event.Draft;
import dev.graphema.event.Fields;
import dev.graphema.event.Level;
import dev.graphema.event.SpanId;
import dev.graphema.event.TraceId;
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
 * default. What a caller sends becomes fields of the context that hide none of one's own.
 */
public final class Correlation {
    /** The correlation of a thread that serves no request: it has no ids and sends no headers. */
    public static final Correlation NONE = new Correlation(null, null, null, 0, null, Baggage.NONE);

    /** The header that carries trace and span ids. */
    public static final String TRACEPARENT = "traceparent";

    /** The header that carries other tracing systems' notes. */
    public static final String TRACESTATE = "tracestate";

    /** The header that carries fields of the context. */
    public static final String BAGGAGE = "baggage";

    private static final int SAMPLED = 1;
    private static final int RANDOM = 2;

    private final TraceId trace;
    private final SpanId span;
    private final SpanId parent;
    private final int flags;
    private final String state;
    private final Baggage baggage;

    private Correlation(TraceId trace, SpanId span, SpanId parent, int flags, String state, Baggage baggage) {
        this.trace = trace;
        this.span = span;
        this.parent = parent;
        this.flags = flags;
        this.state = state;
        this.baggage = baggage;
    }

    /** That of the current thread; {@link #NONE} when there is none. */
    public static Correlation current() {
        return Surroundings.here().correlation();
    }

    /** Begins a new trace on this thread, until the scope is closed. The context stays. */
    public static Scope begin() {
        Surroundings here = Surroundings.here();
        return here.open("correlation", Fields.NONE, started(here, Baggage.NONE));
    }

    /**
     * Goes on with the trace that a caller's headers tell of, as a part of the caller's span; begins a new one when they are
     * missing or invalid. Never throws, whatever they contain. This is an edge: nothing that the thread stood in before is
     * seen within, and nothing that is opened within is left after.
     *
     * @param headers the value of the request header of that name, or null when the request has none; several headers of one
     *     name joined by commas
     */
    public static Scope resume(UnaryOperator<String> headers) {
        Surroundings here = Surroundings.here();
        Correlation correlation = resumed(here, headers);
        return here.openEdge("correlation", correlation.baggage.fields(), correlation);
    }

    static Correlation resumed(Surroundings here, UnaryOperator<String> headers) {
        Baggage baggage = Baggage.parse(header(headers, BAGGAGE));
        LoggerTree.SHARED.steering().marked(baggage.get(Steering.MARK));
        TraceParent caller = TraceParent.parse(header(headers, TRACEPARENT));
        if (caller == null) {
            return started(here, baggage);
        }
        String state = TraceState.valid(header(headers, TRACESTATE));
        return new Correlation(
                caller.trace(), new SpanId(here.nextId()), caller.span(), caller.flags(), state, baggage);
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

    /** Whether the caller has marked the trace as sampled; true for a trace that began here. */
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
        if (trace == null) {
            return;
        }
        setter.accept(TRACEPARENT, traceParent().toString());
        if (state != null) {
            setter.accept(TRACESTATE, state);
        }
        Level raised = LoggerTree.SHARED.steering().raisedHere();
        Baggage leaving = raised == null ? baggage : baggage.with(Steering.MARK, raised.text());
        List<String> names = LoggerTree.SHARED.contextOut();
        Fields context = names.isEmpty()
                ? Fields.NONE
                : LoggerTree.SHARED.leaving(Surroundings.here().fields());
        String carried = leaving.header(context, names);
        if (carried != null) {
            setter.accept(BAGGAGE, carried);
        }
    }

    /** The value of the header {@code traceparent} for this correlation, or null for {@link #NONE}. */
    public String header() {
        return trace == null ? null : traceParent().toString();
    }

    /** A piece of work within this one; the start of a new trace for {@link #NONE}. */
    Correlation child(Surroundings here) {
        return trace == null
                ? started(here, Baggage.NONE)
                : new Correlation(trace, new SpanId(here.nextId()), span, flags, state, baggage);
    }

    void mark(Draft draft) {
        draft.trace(trace, span, parent);
    }

    private TraceParent traceParent() {
        return new TraceParent(trace, span, flags);
    }

    private static Correlation started(Surroundings here, Baggage baggage) {
        TraceId trace = new TraceId(here.nextId(), here.nextId());
        return new Correlation(trace, new SpanId(here.nextId()), null, SAMPLED | RANDOM, null, baggage);
    }

    /** A header, or null also when the caller's function fails: a request must not fail for its log. */
    private static String header(UnaryOperator<String> headers, String name) {
        try {
            return headers.apply(name);
        } catch (RuntimeException e) {
            return null;
        }
    }

    /** The value of {@code traceparent}, or {@code none}. */
    @Override
    public String toString() {
        return trace == null ? "none" : header();
    }
}
