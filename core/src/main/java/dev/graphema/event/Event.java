package dev.graphema.event;

import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;

/**
 * An event: a level, the logger that emitted it, a constant message, typed fields, trace and span, and a failure if
 * there was one. Immutable and thread-safe; created by {@link Draft#finish}.
 *
 * <p>Nothing in an event is evaluated: all texts are data.
 */
public final class Event implements EventValues {
    private final boolean hasTime;
    private final long time;
    private final Level level;
    private final String service;
    private final String instance;
    private final String logger;
    private final String message;
    private final String thread;
    private final Fields fields;
    private final Failure failure;
    private final TraceId trace;
    private final SpanId span;
    private final SpanId parent;
    private final String run;
    private final long sequence;
    private final long weight;
    private final boolean repeat;
    private final boolean held;

    /** Takes the values of the draft, which must not change its fields afterwards. */
    Event(Draft draft) {
        hasTime = draft.hasTime();
        time = draft.epochNanos();
        level = draft.level();
        service = draft.service();
        instance = draft.instance();
        logger = draft.logger();
        message = draft.message();
        thread = draft.thread();
        fields = draft.fields();
        failure = draft.failure();
        trace = draft.trace();
        span = draft.span();
        parent = draft.parent();
        run = draft.run();
        sequence = draft.sequence();
        weight = draft.weight();
        repeat = draft.repeat();
        held = draft.held();
    }

    @Override
    public boolean hasTime() {
        return hasTime;
    }

    @Override
    public long epochNanos() {
        return time;
    }

    @Override
    public Level level() {
        return level;
    }

    @Override
    public String service() {
        return service;
    }

    @Override
    public String instance() {
        return instance;
    }

    @Override
    public String logger() {
        return logger;
    }

    @Override
    public String message() {
        return message;
    }

    @Override
    public String thread() {
        return thread;
    }

    @Override
    public Fields fields() {
        return fields;
    }

    @Override
    public Failure failure() {
        return failure;
    }

    @Override
    public TraceId trace() {
        return trace;
    }

    @Override
    public SpanId span() {
        return span;
    }

    @Override
    public SpanId parent() {
        return parent;
    }

    @Override
    public String run() {
        return run;
    }

    @Override
    public long sequence() {
        return sequence;
    }

    @Override
    public long weight() {
        return weight;
    }

    @Override
    public boolean repeat() {
        return repeat;
    }

    @Override
    public boolean held() {
        return held;
    }

    /** Returns the attributes and fields in one line, for tests and debuggers. */
    @Override
    public String toString() {
        return (level == null ? "-" : level.text()) + " " + logger + " " + message + " " + fields
                + (failure == null ? "" : " " + failure.type());
    }
}
