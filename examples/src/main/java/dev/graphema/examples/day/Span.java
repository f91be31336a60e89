package dev.graphema.examples.day;

import dev.graphema.Operation;
import dev.graphema.event.Draft;
import dev.graphema.event.Failure;
import dev.graphema.event.FieldWriter;
import dev.graphema.event.Level;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.time.Duration;
import java.util.function.Consumer;

/** An operation in the script: its instance, its parent, and its events. */
final class Span {
    private final DayLog log;
    private final Script script;
    private final TraceId trace;
    private final SpanId id;
    private final SpanId parent;
    private final long start;
    private final Consumer<? super FieldWriter> context;

    private Span(
            DayLog log,
            Script script,
            TraceId trace,
            SpanId parent,
            long start,
            Consumer<? super FieldWriter> context) {
        this.log = log;
        this.script = script;
        this.trace = trace;
        this.id = new SpanId(script.id());
        this.parent = parent;
        this.start = start;
        this.context = context;
    }

    /** Starts a request from outside, which begins a trace. */
    static Span root(DayLog log, Script script, long start, Consumer<? super FieldWriter> context) {
        return new Span(log, script, new TraceId(script.id(), script.id()), null, start, context);
    }

    /** Starts a part of it, in the same or another instance. */
    Span part(DayLog where, long start) {
        return new Span(where, script, trace, id, start, context);
    }

    DayLog log() {
        return log;
    }

    void add(long at, Level level, String logger, String message, Consumer<? super FieldWriter> fields) {
        log.add(at, draft(level, logger, message, fields).fields(context));
    }

    /** Adds held events, which were released because the request failed. */
    void addHeld(long at, String logger, String message, Consumer<? super FieldWriter> fields) {
        log.add(at, draft(Level.DEBUG, logger, message, fields).fields(context).held(true));
    }

    /**
     * Adds the end of the operation.
     *
     * @param failure null for none; the level shows whether it failed
     */
    void end(
            long at,
            Level level,
            String logger,
            String message,
            Throwable failure,
            Consumer<? super FieldWriter> fields) {
        Draft draft = draft(level, logger, message, fields)
                .fields(f -> f.put(Operation.ELAPSED, (Object) Duration.ofNanos(at - start))
                        .put(Operation.OUTCOME, level == Level.INFO ? Operation.SUCCESS : Operation.FAILURE))
                .fields(context);
        log.add(at, failure == null ? draft : draft.failure(Failure.of(failure)));
    }

    private Draft draft(Level level, String logger, String message, Consumer<? super FieldWriter> fields) {
        return new Draft()
                .level(level)
                .logger(logger)
                .message(message)
                .thread(log.instance() + "-" + (1 + (int) (trace.low() & 7)))
                .trace(trace, id, parent)
                .fields(fields);
    }
}
