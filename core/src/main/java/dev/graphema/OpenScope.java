package dev.graphema;

import dev.graphema.event.Draft;
import dev.graphema.event.Fields;
import dev.graphema.propagation.Frame;
import dev.graphema.propagation.Misuse;
import dev.graphema.propagation.ThreadFrames;
import dev.graphema.runtime.LoggerTree;

/** An open scope of a thread, with fields, a correlation, an operation, or several of them. */
final class OpenScope extends Frame implements Scope {
    /** The name of the logger of reports. */
    private static final String REPORTS = "dev.graphema";

    private static volatile boolean isLossReported;

    private final Correlation correlation;
    private final Operation operation;

    /** @param correlation null if it is that of the scopes outside */
    private OpenScope(String name, Fields fields, Correlation correlation, Operation operation, boolean isEdge) {
        super(name, fields, isEdge);
        this.correlation = correlation;
        this.operation = operation;
    }

    /** Opens a scope within those that are open. */
    static Scope open(String name, Fields fields, Correlation correlation) {
        return ThreadFrames.push(new OpenScope(name, fields, correlation, Operation.NONE, false));
    }

    /** Opens a scope within which the open ones are not seen. */
    static Scope openEdge(String name, Fields fields, Correlation correlation) {
        return ThreadFrames.push(new OpenScope(name, fields, correlation, Operation.NONE, true));
    }

    /** Opens the scope of an operation within those that are open. */
    static Scope open(Operation operation) {
        return ThreadFrames.push(
                new OpenScope(operation.toString(), Fields.NONE, operation.correlation(), operation, false));
    }

    /** Opens the scope of an operation that another process has requested: an edge, with the fields that came along. */
    static Scope openEdge(Operation operation) {
        Correlation correlation = operation.correlation();
        return ThreadFrames.push(
                new OpenScope(operation.toString(), correlation.outsideFields(), correlation, operation, true));
    }

    /** Returns the innermost operation. */
    static Operation operation() {
        for (Frame frame = ThreadFrames.innermost(); frame != null; frame = frame.outer()) {
            if (((OpenScope) frame).operation != Operation.NONE) {
                return ((OpenScope) frame).operation;
            }
        }
        return Operation.NONE;
    }

    /** Returns the innermost correlation. */
    static Correlation correlation() {
        for (Frame frame = ThreadFrames.innermost(); frame != null; frame = frame.outer()) {
            if (((OpenScope) frame).correlation != null) {
                return ((OpenScope) frame).correlation;
            }
        }
        return Correlation.NONE;
    }

    /** Returns the loggers of the runtime to which the work of this thread belongs: the shared ones, unless it is isolated. */
    static LoggerTree tree() {
        LoggerTree tree = correlation().tree();
        return tree == null ? LoggerTree.SHARED : tree;
    }

    @Override
    public boolean mark(Draft draft) {
        if (correlation == null) {
            return false;
        }
        correlation.mark(draft);
        return true;
    }

    @Override
    public String detail() {
        return correlation == null ? null : correlation.detail();
    }

    @Override
    protected void report(Misuse misuse, String what) {
        warn(misuse, what);
    }

    /** Reports that a scheduled task has failed. */
    static void taskFailed(Runnable task, Throwable failure) {
        Logger.named(REPORTS)
                .error(
                        "scheduled task failed",
                        failure,
                        f -> f.put("task", task.getClass().getName())
                                .put("remedy", "a periodic task does not run again: catch its exceptions within it"));
    }

    /** Reports, once, that an event has no context because its thread belongs to the common pool. */
    static void contextLost(String logger) {
        if (!logger.equals(REPORTS) && !isLossReported) {
            isLossReported = true;
            warn(Misuse.LOST_CONTEXT, logger);
        }
    }

    /**
     * Reports a wrong use as a warning of the logger {@code dev.graphema}.
     *
     * @param what the name of the scope or operation; never a value of an event
     */
    static void warn(Misuse misuse, String what) {
        long count = misuse.count();
        if (count > 0) {
            Logger.named(REPORTS)
                    .warn(
                            misuse.message(),
                            f -> f.put("what", what)
                                    .put("thread", Thread.currentThread().getName())
                                    .put("times", count)
                                    .put("remedy", misuse.remedy()));
        }
    }
}
