package dev.graphema.event;

import java.util.function.Consumer;
import java.util.function.UnaryOperator;

/**
 * An event that is still being made, by one thread: captured, thinned and redacted, then {@link #finish() finished} and
 * from there on immutable. The stages of the pipeline, and readers of logs, make events with it.
 *
 * <p>Setters may be given null for whatever is not known.
 */
public final class Draft {
    private final Event event = new Event();
    private final Bounds bounds;
    private final SensitiveValues sensitive;
    private FieldRecorder recorder;
    private int expected = 8;
    private boolean callerDropsTrace;

    /** How many characters the message has of which only the beginning was taken; 0 when it was taken whole. */
    private int messageLength;

    /** For an event that is said now; huge values are cut, see {@link FieldWriter}. */
    public Draft() {
        this(SensitiveValues.FIXED);
    }

    /** As above. @param sensitive says what stands in the place of sensitive values */
    public Draft(SensitiveValues sensitive) {
        this(Bounds.SAYING, sensitive);
    }

    private Draft(Bounds bounds, SensitiveValues sensitive) {
        this.bounds = bounds;
        this.sensitive = sensitive;
    }

    /** For an event that was written and is read again. */
    public static Draft ofWritten() {
        return new Draft(Bounds.READING, SensitiveValues.FIXED);
    }

    /** As above. @param fields how many fields there will be, as far as that is known */
    public static Draft ofWritten(int fields) {
        Draft draft = ofWritten();
        draft.expected = Math.max(1, fields);
        return draft;
    }

    /**
     * Begins anew with the event that was finished last, which everybody must have let go of: for whoever looks at very many events, one after the other.
     */
    public Draft again() {
        event.clear();
        if (recorder != null) {
            recorder.again(event.fields);
        }
        return this;
    }

    /** Marks an event that was just read back as one that may have been written before; nobody else has seen it yet. */
    public static Event repeat(Event event) {
        event.repeat = true;
        return event;
    }

    /** Numbers and marks an event that was held back and comes out now; nobody else has seen it yet. */
    public static Event released(Event event, long sequence) {
        event.sequence = sequence;
        event.held = true;
        return event;
    }

    public Draft time(long epochNanos) {
        event.time = epochNanos;
        return this;
    }

    /** Marks an event of which the time is not known. @param place a time by which it is put in its place */
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

    /** Whether the caller that the trace came from does not keep it. */
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

    /** Where fields are put until the draft is finished. */
    public FieldWriter writer() {
        return recorder();
    }

    /** Runs the caller's code that puts fields; what it throws becomes a field. */
    public Draft fields(Consumer<? super FieldWriter> writing) {
        recorder().record(writing);
        return this;
    }

    /** Adds those fields whose names are not there yet. */
    public Draft missingFields(Fields more) {
        if (!more.isEmpty()) {
            own(more.size()).addMissing(more);
        }
        return this;
    }

    /** Passes every text through the operator, as below. */
    public Draft rewrite(UnaryOperator<String> operator) {
        return rewrite(operator, operator, FieldRewriter.NONE);
    }

    /**
     * Passes every text through an operator: message, logger, thread, names and values of fields, messages, types and frames
     * of failures, and whole numbers with so many digits that they could be an account.
     *
     * @param recurring the operator for what is likely to come again and again as the same object: all but values and
     *     messages of failures
     * @param names decides first about fields by their names
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

    /** The event as it stands, to be looked at, and not kept, before it is finished. */
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

    /** The finished event. The draft and its writer must not be used any more. */
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
