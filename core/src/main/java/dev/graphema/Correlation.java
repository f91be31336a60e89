package dev.graphema;

import dev.graphema.event.Draft;
import dev.graphema.event.Fields;
import dev.graphema.event.SpanId;
import dev.graphema.event.TraceId;
import java.util.function.BiConsumer;
import java.util.function.UnaryOperator;

/**
 * To which request an event belongs, across all services: trace and span ids as in W3C Trace Context. Immutable.
 *
 * <pre>{@code
 * try (Scope scope = Correlation.resume(request::header)) {     // or begins a new one
 *     Correlation.current().headers(outgoing::setHeader);
 * }
 * }</pre>
 */
public final class Correlation {
    /** The correlation of a thread that serves no request: it has no ids and sends no headers. */
    public static final Correlation NONE = new Correlation(null, null, null, 0);

    /** The header that carries trace and span ids. */
    public static final String TRACEPARENT = "traceparent";

    private static final int SAMPLED_AND_RANDOM = 3;

    private final TraceId trace;
    private final SpanId span;
    private final SpanId parent;
    private final int flags;

    private Correlation(TraceId trace, SpanId span, SpanId parent, int flags) {
        this.trace = trace;
        this.span = span;
        this.parent = parent;
        this.flags = flags;
    }

    /** That of the current thread; {@link #NONE} when there is none. */
    public static Correlation current() {
        return Surroundings.here().correlation();
    }

    /** Begins a new trace on this thread, until the scope is closed. */
    public static Scope begin() {
        Surroundings here = Surroundings.here();
        return here.open("correlation", Fields.NONE, started(here));
    }

    /**
     * Goes on with the trace that the caller's headers tell of, as a part of the caller's span; begins a new one when they
     * are missing or invalid. Never throws for what they contain.
     *
     * @param headers the value of the request header of that name, or null when the request has none
     */
    public static Scope resume(UnaryOperator<String> headers) {
        Surroundings here = Surroundings.here();
        return here.openEdge("correlation", Fields.NONE, resumed(here, headers));
    }

    static Correlation resumed(Surroundings here, UnaryOperator<String> headers) {
        TraceParent caller = TraceParent.parse(headers.apply(TRACEPARENT));
        return caller == null
                ? started(here)
                : new Correlation(caller.trace(), new SpanId(here.nextId()), caller.span(), caller.flags());
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

    /** Hands over the headers that an outgoing call has to carry, name and value each; none for {@link #NONE}. */
    public void headers(BiConsumer<String, String> setter) {
        if (trace != null) {
            setter.accept(TRACEPARENT, new TraceParent(trace, span, flags).toString());
        }
    }

    /** A piece of work within this one; the start of a new trace for {@link #NONE}. */
    Correlation child(Surroundings here) {
        return trace == null ? started(here) : new Correlation(trace, new SpanId(here.nextId()), span, flags);
    }

    void mark(Draft draft) {
        draft.trace(trace, span, parent);
    }

    private static Correlation started(Surroundings here) {
        TraceId trace = new TraceId(here.nextId(), here.nextId());
        return new Correlation(trace, new SpanId(here.nextId()), null, SAMPLED_AND_RANDOM);
    }

    @Override
    public String toString() {
        return trace == null ? "none" : new TraceParent(trace, span, flags).toString();
    }
}
