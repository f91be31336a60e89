package dev.graphema.propagation;

import dev.graphema.event.Draft;
import dev.graphema.event.Fields;
import java.util.concurrent.atomic.AtomicIntegerFieldUpdater;

/**
 * An open scope of a thread. An <em>edge</em> is the scope of a request, or of a task that was carried over from another
 * thread: nothing beyond it is seen within.
 */
public abstract class Frame {
    private static final AtomicIntegerFieldUpdater<Frame> CLOSED =
            AtomicIntegerFieldUpdater.newUpdater(Frame.class, "closed");

    private final Thread owner = Thread.currentThread();
    private final String name;
    private final Fields fields;
    private final boolean isEdge;

    /** The frame that was on top when this one was opened; set by {@link ThreadFrames#push}. */
    Frame below;

    /**
     * 1 if it is closed. Another thread may close the scope, and the owner drops it when it looks next. Nobody waits for
     * that, so the value is written without a fence.
     */
    private volatile int closed;

    /**
     * Creates a frame, to be {@linkplain ThreadFrames#push pushed} by the same thread.
     *
     * @param name its name in reports; null for the names of its fields
     */
    protected Frame(String name, Fields fields, boolean isEdge) {
        this.name = name;
        this.fields = fields;
        this.isEdge = isEdge;
    }

    /**
     * Sets the ids of the request on the draft.
     *
     * @return false if the frame does not belong to a request of its own
     */
    public abstract boolean mark(Draft draft);

    /** Returns the level of detail that the caller of the request has asked for; null for none. */
    public abstract String detail();

    /**
     * Reports a wrong use of scopes.
     *
     * @param what the name of the scope
     */
    protected abstract void report(Misuse misuse, String what);

    /** Returns the next open frame further out that is seen within this one, or null. */
    public final Frame outer() {
        Frame frame = isEdge ? null : below;
        while (frame != null && frame.isClosed()) {
            frame = frame.isEdge ? null : frame.below;
        }
        return frame;
    }

    /** Closes the scope. A second call has no effect. */
    public void close() {
        if (isClosed()) {
            return;
        }
        setClosed();
        if (owner == Thread.currentThread()) {
            ThreadFrames.closed(this);
        } else {
            report(Misuse.OTHER_THREAD, name());
        }
    }

    final Fields fields() {
        return fields;
    }

    final boolean isEdge() {
        return isEdge;
    }

    final boolean isClosed() {
        return closed != 0;
    }

    final void setClosed() {
        CLOSED.lazySet(this, 1);
    }

    /** Returns its name in reports. */
    final String name() {
        return name == null ? "context of " + fields.toMap().keySet() : name;
    }
}
