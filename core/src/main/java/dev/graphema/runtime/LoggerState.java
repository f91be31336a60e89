package dev.graphema.runtime;

import dev.graphema.event.Draft;
import dev.graphema.event.Failure;
import dev.graphema.event.FieldWriter;
import dev.graphema.event.Fields;
import dev.graphema.event.Level;
import dev.graphema.failure.FailurePolicy;
import dev.graphema.propagation.ThreadDraft;
import dev.graphema.propagation.ThreadFrames;
import dev.graphema.text.Times;
import java.util.function.Consumer;
import java.util.function.Function;

/** The state that all loggers of one name share, and that settings change at run time. */
public final class LoggerState {
    /** The result of {@link #admit} for a rejected event. */
    public static final long REFUSED = -1;

    private static final int OFF = 0xFF;

    private final String name;
    private final LoggerTree tree;

    // One number, so that the accepted levels and the generation of the settings are always read together: the lowest
    // severity that may be accepted (8 bits), the severity from which all events are accepted (8 bits), and the
    // generation. Volatile, so that all threads see a change soon; a volatile read costs no more than a plain one here.
    private volatile long admission;
    private volatile boolean addsCaller;
    private volatile Object companion;

    LoggerState(String name, LoggerTree tree) {
        this.name = name;
        this.tree = tree;
    }

    /**
     * @param threshold the level from which all events are accepted
     * @param floor the level from which events are accepted if detail is raised for them; OFF if it is raised for none
     */
    void set(Level threshold, Level floor, long generation, boolean addsCaller) {
        int from = severity(threshold);
        this.admission = generation << 16 | (long) from << 8 | Math.min(from, severity(floor));
        this.addsCaller = addsCaller;
    }

    public String name() {
        return name;
    }

    public LoggerTree tree() {
        return tree;
    }

    public boolean takes(Level level) {
        return admit(level) != REFUSED;
    }

    /** Returns the generation of the settings that accept an event of this level, or {@link #REFUSED}. */
    public long admit(Level level) {
        long now = admission;
        int severity = level.severity();
        if (severity < (now & 0xFF)) {
            return REFUSED;
        }
        boolean isIn = severity >= (now >>> 8 & 0xFF)
                ? severity < OFF
                : tree.thresholds().isRaised(level);
        return isIn ? now >>> 16 : REFUSED;
    }

    /** Whether events contain the calling class, method and line. */
    boolean addsCaller() {
        return addsCaller;
    }

    /**
     * Returns the only object of another package that belongs to this state.
     *
     * @param create creates it
     */
    public Object companion(Function<LoggerState, Object> create) {
        Object known = companion;
        return known != null ? known : created(create);
    }

    private synchronized Object created(Function<LoggerState, Object> create) {
        if (companion == null) {
            companion = create.apply(this);
        }
        return companion;
    }

    /** Begins an event whose draft belongs to the caller. */
    public Draft draft(Level level, String message) {
        return begun(new Draft(tree.sensitive()), level, message);
    }

    /**
     * Emits an event of the current request of this thread.
     *
     * @param failure null for none
     * @param fields adds the fields of the event; null for none
     * @param more fields that give way to those of the event and the context
     * @param admittedBy the generation of the settings that accepted the event
     */
    public void emit(
            Level level,
            String message,
            Throwable failure,
            Consumer<? super FieldWriter> fields,
            Fields more,
            long admittedBy) {
        ThreadDraft borrowed = ThreadDraft.borrow(tree.sensitive());
        Draft draft = begun(borrowed.draft(), level, message);
        if (fields != null) {
            draft.fields(fields);
        }
        addCaller(draft);
        borrowed.addContext();
        complete(draft.time(Times.now()), more, failure, admittedBy);
        borrowed.giveBack();
    }

    private Draft begun(Draft draft, Level level, String message) {
        return draft.level(level)
                .logger(name)
                .message(message == null ? "" : message)
                .thread(Thread.currentThread().getName());
    }

    /**
     * Completes the draft with the context, further fields and the failure, and passes it on.
     *
     * @param fields fields that give way to those of the event and the context
     * @param failure null for none
     * @param admittedBy the generation of the settings that accepted the event
     */
    public void send(Draft draft, Fields fields, Throwable failure, long admittedBy) {
        addCaller(draft);
        ThreadFrames.addFields(draft);
        complete(draft, fields, failure, admittedBy);
    }

    private void addCaller(Draft draft) {
        if (addsCaller) {
            draft.fields(f -> f.put("caller", Caller.current()));
        }
    }

    private void complete(Draft draft, Fields more, Throwable failure, long admittedBy) {
        boolean isError = draft.level().passes(Level.ERROR);
        draft.missingFields(more);
        RecordedFailures recorded = tree.recordedFailures();
        RecordedFailures.Entry earlier = failure == null ? null : recorded.find(failure);
        if (earlier != null) {
            refer(draft, failure, earlier);
        } else if (failure != null) {
            draft.failure(Failure.of(failure));
        }
        tree.receiver().accept(draft, admittedBy);
        if (failure != null && earlier == null && isError) {
            // Errors are not sampled, so the recorded failure can be found.
            recorded.add(failure, draft.failure().fingerprint());
        }
    }

    /** A failure is recorded once. Later events refer to it, and keep the type and message of a wrapper. */
    private static void refer(Draft draft, Throwable failure, RecordedFailures.Entry earlier) {
        draft.fields(f -> {
            f.put(Failure.RECORDED, earlier.fingerprint());
            if (!earlier.is(failure)) {
                Failure wrapper = Failure.of(failure);
                f.put(Failure.WRAPPER, wrapper.type() + (wrapper.message() == null ? "" : ": " + wrapper.message()));
            }
        });
    }

    /** Counts an event that could not be created. Throws only {@link OutOfMemoryError}. */
    public void refuse(Throwable problem) {
        try {
            tree.receiver().refuse(problem);
        } catch (StackOverflowError e) {
            tree.refusedWithoutStack++; // no stack is left for another call
        } catch (Throwable e) {
            FailurePolicy.contain(e);
        }
        FailurePolicy.contain(problem);
    }

    private static int severity(Level level) {
        return Math.min(level.severity(), OFF);
    }
}
