package dev.graphema.event;

import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;

/**
 * A mutable event, for one thread. It is captured, sampled and redacted, and then either {@linkplain #finish() finished}
 * into an immutable event, or {@linkplain #encoded encoded} as bytes. Afterwards it can be used {@linkplain #again again}.
 * The pipeline and the readers of logs create events with it.
 *
 * <p>A reference that is already there is not stored again: with the default garbage collector, storing one costs several times as much
 * as comparing it, and an event has a dozen that are those of the event before.
 *
 * <p>Setters accept null for unknown values.
 */
public final class Draft implements EventValues {
    private static final int USUAL_FIELDS = 8;

    private final Bounds bounds;
    private SensitiveValues sensitive;
    private FieldRecorder recorder;
    private int expected = USUAL_FIELDS;
    private boolean callerDropsTrace;

    /** The length of a message that was recorded in part; 0 if it is complete. */
    private int messageLength;

    private boolean isCompleted;

    /** Whether the fields belong to an event, too, and must not be changed any more. */
    private boolean isFinished;

    /** The last thread that has borrowed the draft, or null. */
    private Thread owner;

    /** Whether that thread uses it. */
    private boolean isBorrowed;

    /** The fields of contexts, which are at the end of all. */
    private final SharedFields shared = new SharedFields();

    /** The fields as bytes; null if the draft is never borrowed. */
    private FieldBytes packed;

    /** Whether the fields are those bytes, and not an object. */
    private boolean isPacked;

    private EventBytes bytes;
    private boolean isEncoded;

    long time;
    Level level;
    String service;
    String instance;
    String logger;
    String message;
    String thread;
    Fields fields = Fields.NONE;
    Failure failure;
    /** Of a failure that was not read; else null. */
    private String fingerprint;

    TraceId trace;
    SpanId span;
    SpanId parent;
    String run;
    long sequence;
    long weight = 1;
    boolean repeat;
    boolean held;
    boolean isTimeless;

    /** Creates a draft of an event that is emitted now. Huge values are cut, see {@link FieldWriter}. */
    public Draft() {
        this(SensitiveValues.FIXED);
    }

    /**
     * As above.
     *
     * @param sensitive provides the replacements of sensitive values
     */
    public Draft(SensitiveValues sensitive) {
        this(Bounds.EMITTING, sensitive);
    }

    private Draft(Bounds bounds, SensitiveValues sensitive) {
        this.bounds = bounds;
        this.sensitive = sensitive;
    }

    /** Creates a draft of an event that is read. */
    public static Draft ofWritten() {
        return new Draft(Bounds.READING, SensitiveValues.FIXED);
    }

    /**
     * As above.
     *
     * @param fields the approximate number of fields
     */
    public static Draft ofWritten(int fields) {
        Draft draft = ofWritten();
        draft.expected = Math.max(1, fields);
        return draft;
    }

    /**
     * Creates a draft with the values of an event.
     *
     * @param fields the fields instead of its own
     */
    public static Draft copyOf(Event event, Fields fields) {
        Draft draft = ofWritten(fields.count())
                .level(event.level())
                .service(event.service())
                .instance(event.instance())
                .logger(event.logger())
                .message(event.message())
                .thread(event.thread())
                .failure(event.failure())
                .fingerprint(event.fingerprint())
                .trace(event.trace(), event.span(), event.parent())
                .sequence(event.sequence())
                .run(event.run())
                .repeat(event.repeat())
                .held(event.held())
                .weight(event.weight())
                .missingFields(fields);
        return event.hasTime() ? draft.time(event.epochNanos()) : draft.timeless(event.epochNanos());
    }

    /**
     * Removes all values, so that the draft can be used for another event. Texts that were recorded are no longer
     * referred to; the arrays are kept, unless an event has them.
     */
    public Draft again() {
        giveBack();
        level = null;
        service = null;
        instance = null;
        logger = null;
        thread = null;
        run = null;
        return trace(null, null, null).callerDropsTrace(false);
    }

    /**
     * Ends the use since {@link #borrow}. As {@link #again}, except that level, logger, thread, service, instance, run and the ids of
     * the request stay: the next event of the thread must set them, mostly to the same values.
     */
    public void giveBack() {
        time = 0;
        message = null;
        messageLength = 0;
        failure = null;
        fingerprint = null;
        sequence = 0;
        weight = 1;
        repeat = false;
        held = false;
        isTimeless = false;
        isEncoded = false;
        shared.clear();
        boolean isUsedAgain = !isFinished && fields.clear();
        if (!isUsedAgain && fields != Fields.NONE) {
            fields = Fields.NONE;
        }
        isFinished = false;
        isCompleted = false;
        isPacked = false;
        isBorrowed = false;
        if (packed != null) {
            packed.clear();
        }
        if (recorder != null) {
            recorder.release();
        }
    }

    /**
     * Marks an empty draft as in use, until it is used {@linkplain #again again}.
     *
     * @param by the only thread that adds fields: calls of the writer by others are ignored, because a program may keep
     *     the writer of an event, while the draft is used for another one
     * @param replacements provides the replacements of sensitive values
     */
    public Draft borrow(Thread by, SensitiveValues replacements) {
        isBorrowed = true;
        if (owner != by) {
            owner = by;
        }
        if (sensitive != replacements) {
            sensitive = replacements;
        }
        if (packed == null) {
            packed = new FieldBytes();
        }
        packed.checkedBy(replacements);
        isPacked = true;
        return this;
    }

    /** Returns whether the draft is in use since {@link #borrow}. */
    public boolean isBorrowed() {
        return isBorrowed;
    }

    public Draft time(long epochNanos) {
        time = epochNanos;
        isTimeless = false;
        return this;
    }

    /**
     * Sets that the time of the event is unknown.
     *
     * @param place a time that determines its position
     */
    public Draft timeless(long place) {
        time = place;
        isTimeless = true;
        return this;
    }

    public Draft level(Level level) {
        if (this.level != level) {
            this.level = level;
        }
        return this;
    }

    public Draft service(String service) {
        if (this.service != service) {
            this.service = service;
        }
        return this;
    }

    public Draft instance(String instance) {
        if (this.instance != instance) {
            this.instance = instance;
        }
        return this;
    }

    public Draft logger(String logger) {
        if (this.logger != logger) {
            this.logger = logger;
        }
        return this;
    }

    public Draft message(String message) {
        boolean tooLong = message != null && bounds.isTooLong(message);
        messageLength = tooLong ? message.length() : 0;
        this.message = tooLong ? bounds.head(message) : message;
        return this;
    }

    public Draft thread(String thread) {
        String name = thread == null ? null : Bounds.name(thread);
        if (this.thread != name) {
            this.thread = name;
        }
        return this;
    }

    public Draft failure(Failure failure) {
        this.failure = failure;
        return this;
    }

    /** Defines the fingerprint of a failure that is not read itself, for conditions; the finished event has no failure. */
    public Draft fingerprint(String fingerprint) {
        this.fingerprint = fingerprint;
        return this;
    }

    public Draft trace(TraceId trace, SpanId span, SpanId parent) {
        if (this.trace != trace) {
            this.trace = trace;
        }
        if (this.span != span) {
            this.span = span;
        }
        if (this.parent != parent) {
            this.parent = parent;
        }
        return this;
    }

    /** Sets whether the caller of this service drops the trace. */
    public Draft callerDropsTrace(boolean drops) {
        callerDropsTrace = drops;
        return this;
    }

    /** Returns whether the caller of this service drops the trace. */
    public boolean callerDropsTrace() {
        return callerDropsTrace;
    }

    public Draft sequence(long sequence) {
        this.sequence = sequence;
        return this;
    }

    public Draft run(String run) {
        if (this.run != run) {
            this.run = run;
        }
        return this;
    }

    public Draft repeat(boolean repeat) {
        this.repeat = repeat;
        return this;
    }

    public Draft held(boolean held) {
        this.held = held;
        return this;
    }

    public Draft weight(long weight) {
        this.weight = weight;
        return this;
    }

    /** Returns a writer that adds fields until the draft is completed. */
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
        if (more.isEmpty()) {
            return this;
        }
        if (!isPacked() || !packed.addMissing(more)) {
            unpack();
            Fields all = own(more.size());
            int from = all.size();
            if (all.addMissing(more)) {
                shared.add(more, from);
            }
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
        return rewrite(null, operator, recurring, names);
    }

    /**
     * As above.
     *
     * @param redaction may have checked the fields when they were recorded; null for none
     */
    public Draft rewrite(
            SensitiveValues redaction,
            UnaryOperator<String> operator,
            UnaryOperator<String> recurring,
            FieldRewriter names) {
        String rewrittenMessage = message == null ? null : recurring.apply(message);
        if (message != rewrittenMessage) {
            message = rewrittenMessage;
        }
        thread(thread == null ? null : recurring.apply(thread));
        logger(logger == null ? null : recurring.apply(logger));
        if (isPacked() && packed.isCheckedBy(redaction)) {
            return rewriteFailure(operator, recurring);
        }
        unpack();
        if (!fields.isEmpty() && shared.rewrite(fields, redaction, operator, recurring, names)) {
            shared.clear();
            fields = fields.rewrite(names);
            if (recorder != null) {
                recorder.into(fields);
            }
            fields.rewrite(operator, 0, fields.size());
        }
        return rewriteFailure(operator, recurring);
    }

    private Draft rewriteFailure(UnaryOperator<String> operator, UnaryOperator<String> recurring) {
        if (failure != null) {
            failure = failure.rewritten(operator, recurring);
        }
        return this;
    }

    /**
     * Cuts texts that are too long, after redaction. The writer of the draft ignores later calls; attributes can still
     * be set.
     */
    public Draft complete() {
        isCompleted = true;
        if (recorder != null) {
            recorder.release();
        }
        if (messageLength > 0) {
            message = bounds.cut(message, messageLength);
            messageLength = 0;
        }
        if (!isPacked() && fields.hasCutTexts()) {
            fields.cutTexts(bounds);
        }
        if (failure != null && bounds != Bounds.READING) {
            failure = failure.cut(bounds);
        }
        return this;
    }

    /** Completes the draft and returns it as an immutable event. The draft must not be changed afterwards. */
    public Event finish() {
        unpack();
        complete();
        isFinished = true;
        return new Event(this);
    }

    /** Returns a completed draft as bytes that belong to the caller. Values can still be set. */
    public byte[] toBytes() {
        isEncoded = false;
        byte[] copy = encoded().copy();
        isEncoded = false;
        return copy;
    }

    /**
     * Returns a completed draft as bytes, valid until the draft is used again. It is encoded by the first call; the
     * draft must not be changed afterwards.
     */
    public EventBytes encoded() {
        if (!isEncoded) {
            bytes = bytes == null ? new EventBytes() : bytes;
            bytes.write(this, isPacked() ? packed : null, shared);
            isEncoded = true;
        }
        return bytes;
    }

    @Override
    public boolean hasTime() {
        return !isTimeless;
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
        return isPacked() ? packed.fields() : fields;
    }

    @Override
    public boolean test(String field, ValuePredicate test) {
        return isPacked() ? packed.test(field, test) : fields.test(field, test);
    }

    @Override
    public Failure failure() {
        return failure;
    }

    @Override
    public String fingerprint() {
        return fingerprint == null ? EventValues.super.fingerprint() : fingerprint;
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

    private FieldRecorder recorder() {
        if (recorder == null) {
            recorder = new FieldRecorder(bounds);
        }
        shared.clear(); // the program may replace a field of a context
        if (!recorder.isOpen() && !isCompleted) {
            if (isPacked()) {
                recorder.open(packed, sensitive, owner);
            } else {
                recorder.open(own(expected), sensitive, isBorrowed ? owner : null);
            }
        }
        return recorder;
    }

    /** Returns whether the fields are bytes. The recorder may have replaced them by an object. */
    private boolean isPacked() {
        if (isPacked && packed.replacement() != null) {
            isPacked = false;
            fields = packed.replacement();
        }
        return isPacked;
    }

    /** Returns the object that has replaced the bytes of the fields, or null. */
    Fields replacement() {
        return packed == null ? null : packed.replacement();
    }

    private void unpack() {
        if (isPacked()) {
            isPacked = false;
            fields = packed.isEmpty() ? Fields.NONE : packed.replace(0);
            if (recorder != null && recorder.isOpen()) {
                recorder.into(own(expected));
            }
        }
    }

    private Fields own(int capacity) {
        if (fields == Fields.NONE) {
            fields = new Fields(capacity);
        }
        return fields;
    }
}
