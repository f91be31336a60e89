package dev.graphema.event;

import java.util.function.Consumer;
import java.util.function.UnaryOperator;

/**
 * A mutable event, for one thread. It is captured, sampled and redacted, and then {@linkplain #finish() finished} into
 * an immutable event. The pipeline and the readers of logs create events with it.
 *
 * <p>Setters accept null for unknown values.
 */
public final class Draft {
    private final Event event = new Event();
    private final Bounds bounds;
    private final SensitiveValues sensitive;
    private FieldRecorder recorder;
    private int expected = 8;
    private boolean callerDropsTrace;

    /** The length of a message that was recorded in part; 0 if it is complete. */
    private int messageLength;

    /** Creates a draft of an event that is emitted now. Huge values are cut, see {@link FieldWriter}. */
    public Draft() {
        this(SensitiveValues.FIXED);
    }

    /** As above. @param sensitive provides the replacements of sensitive values */
    public Draft(SensitiveValues sensitive) {
        this(Bounds.SAYING, sensitive);
    }

    private Draft(Bounds bounds, SensitiveValues sensitive) {
        this.bounds = bounds;
        this.sensitive = sensitive;
    }

    /** Creates a draft of an event that is read. */
    public static Draft ofWritten() {
        return new Draft(Bounds.READING, SensitiveValues.FIXED);
    }

    /** As above. @param fields the approximate number of fields */
    public static Draft ofWritten(int fields) {
        Draft draft = ofWritten();
        draft.expected = Math.max(1, fields);
        return draft;
    }

    /**
     * Reuses the event that was finished last, to which nobody may have a reference: for reading very many events one
     * after the other.
     */
    public Draft again() {
        event.clear();
        if (recorder != null) {
            recorder.again(event.fields);
        }
        return this;
    }

    /**
     * Marks an event as one that may have been written before. It must have been read just now, so that nobody else has
     * a reference to it.
     */
    public static Event repeat(Event event) {
        event.repeat = true;
        return event;
    }

    /**
     * Sets the sequence number of a released event and marks it as held back. Nobody else may have a reference to it.
     */
    public static Event released(Event event, long sequence) {
        event.sequence = sequence;
        event.held = true;
        return event;
    }

    public Draft time(long epochNanos) {
        event.time = epochNanos;
        return this;
    }

    /** Sets that the time of the event is unknown. @param place a time that determines its position */
    public Draft timeless(long place) {
        event.time = place;
        event.isTimeless = true;
        return this;
    }

    public Draft level(Level level) {
        event.level = level;
        return this;
    }

    public Draft service(String service) {
        event.service = service;
        return this;
    }

    public Draft instance(String instance) {
        event.instance = instance;
        return this;
    }

    public Draft logger(String logger) {
        event.logger = logger;
        return this;
    }

    public Draft message(String message) {
        boolean tooLong = message != null && bounds.isTooLong(message);
        messageLength = tooLong ? message.length() : 0;
        event.message = tooLong ? bounds.head(message) : message;
        return this;
    }

    public Draft thread(String thread) {
        event.thread = thread == null ? null : Bounds.name(thread);
        return this;
    }

    public Draft failure(Failure failure) {
        event.failure = failure;
        return this;
    }

    public Draft trace(TraceId trace, SpanId span, SpanId parent) {
        event.trace = trace;
        event.span = span;
        event.parent = parent;
        return this;
    }

    /** Returns whether the caller of this service drops the trace. */
    public Draft callerDropsTrace(boolean drops) {
        callerDropsTrace = drops;
        return this;
    }

    public boolean callerDropsTrace() {
        return callerDropsTrace;
    }

    public Draft sequence(long sequence) {
        event.sequence = sequence;
        return this;
    }

    public Draft run(String run) {
        event.run = run;
        return this;
    }

    public Draft repeat(boolean repeat) {
        event.repeat = repeat;
        return this;
    }

    public Draft held(boolean held) {
        event.held = held;
        return this;
    }

    public Draft weight(long weight) {
        event.weight = weight;
        return this;
    }

    /** Returns a writer that adds fields until the draft is finished. */
    public FieldWriter writer() {
        return recorder();
    }

    /** Calls the function of the program that adds fields. If it throws an exception, a field describes it. */
    public Draft fields(Consumer<? super FieldWriter> writing) {
        recorder().record(writing);
        return this;
    }

    /** Adds the fields whose names are missing. */
    public Draft missingFields(Fields more) {
        if (!more.isEmpty()) {
            own(more.size()).addMissing(more);
        }
        return this;
    }

    /** Applies the operator to all texts, as below. */
    public Draft rewrite(UnaryOperator<String> operator) {
        return rewrite(operator, operator, FieldRewriter.NONE);
    }

    /**
     * Applies the operator to all texts: message, logger, thread, names and values of fields, messages, types and
     * frames of failures, and whole numbers with as many digits as an account number.
     *
     * @param recurring the operator for texts that often recur as the same object: all texts except values and messages
     *     of failures
     * @param names decides about fields by their names first
     */
    public Draft rewrite(UnaryOperator<String> operator, UnaryOperator<String> recurring, FieldRewriter names) {
        event.message = event.message == null ? null : recurring.apply(event.message);
        event.thread = event.thread == null ? null : recurring.apply(event.thread);
        event.logger = event.logger == null ? null : recurring.apply(event.logger);
        if (!event.fields.isEmpty()) {
            // First of all, since whoever decides by names may remember them.
            event.fields.rewriteNames(recurring);
            if (names.isAboutNames()) {
                event.fields = event.fields.rewrite(names);
                if (recorder != null) {
                    recorder.into(event.fields);
                }
            }
            event.fields.rewrite(operator);
        }
        if (event.failure != null) {
            event.failure = event.failure.rewritten(operator, recurring);
        }
        return this;
    }

    /** Returns the unfinished event, to be read before the draft changes. */
    public Event soFar() {
        return event;
    }

    public String logger() {
        return event.logger;
    }

    public String message() {
        return event.message;
    }

    public Level level() {
        return event.level;
    }

    public TraceId trace() {
        return event.trace;
    }

    /** Returns the finished event. The draft and its writer must not be used afterwards. */
    public Event finish() {
        if (recorder != null) {
            recorder.release();
        }
        cutLongTexts();
        return event;
    }

    private void cutLongTexts() {
        if (messageLength > 0) {
            event.message = bounds.cut(event.message, messageLength);
            messageLength = 0;
        }
        if (event.fields.hasCutTexts()) {
            event.fields.cutTexts(bounds);
        }
        if (event.failure != null && bounds != Bounds.READING) {
            event.failure = event.failure.cut(bounds);
        }
    }

    private FieldRecorder recorder() {
        if (recorder == null) {
            recorder = new FieldRecorder(own(expected), bounds, sensitive);
        }
        return recorder;
    }

    private Fields own(int capacity) {
        if (event.fields == Fields.NONE) {
            event.fields = new Fields(capacity);
        }
        return event.fields;
    }
}
