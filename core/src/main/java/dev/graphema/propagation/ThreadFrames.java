package dev.graphema.propagation;

import dev.graphema.event.Draft;
import dev.graphema.event.Fields;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ForkJoinPool;
import java.util.concurrent.ForkJoinWorkerThread;

/**
 * The open scopes of the current thread: a stack of frames, innermost on top.
 *
 * <p>Closing a scope restores the state before it was opened: scopes that were opened later and are still open are closed
 * with it, which is reported. A scope beyond an edge that is closed late is removed alone, without an effect on what belongs
 * to the edge. When an edge is closed, everything above it is closed, too, so that a pooled thread does not keep the context
 * of one request for the next. A scope that another thread closes is removed by the next call on its thread.
 *
 * <p>The thread-local value is an array of the JDK and not an object of this class: a thread that outlives the class loader of
 * this library must not keep its classes in memory.
 */
public final class ThreadFrames {
    /** The index of the {@link ThreadDraft}. */
    static final int DRAFT = 1;

    /** Whether a scope was ever opened; other threads see it sooner or later. */
    private static boolean isUsed;

    /** The innermost frame, or null, and the draft of the thread. */
    private static final ThreadLocal<Object[]> TOP = new ThreadLocal<>();

    private ThreadFrames() {}

    static Object[] place() {
        Object[] place = TOP.get();
        if (place == null) {
            place = new Object[DRAFT + 1];
            TOP.set(place);
        }
        return place;
    }

    /**
     * Opens a scope within those that are open.
     *
     * @return the frame
     */
    public static <F extends Frame> F push(F frame) {
        Object[] place = place();
        frame.below = open(place);
        place[0] = frame;
        if (!isUsed) {
            isUsed = true;
        }
        return frame;
    }

    /**
     * Returns whether this is a thread of the common pool without a scope, in a program that uses scopes elsewhere: {@code
     * CompletableFuture.supplyAsync} without an executor runs there, and loses the context.
     */
    public static boolean isContextLost() {
        return Thread.currentThread() instanceof ForkJoinWorkerThread worker
                && isUsed
                && worker.getPool() == ForkJoinPool.commonPool()
                && innermost() == null;
    }

    /** Returns the innermost open frame, or null. */
    public static Frame innermost() {
        return open(place());
    }

    /** Sets the ids of the current request on the draft. */
    public static void mark(Draft draft) {
        mark(draft, innermost());
    }

    static void mark(Draft draft, Frame innermost) {
        for (Frame frame = innermost; frame != null; frame = frame.outer()) {
            if (frame.mark(draft)) {
                return;
            }
        }
        draft.trace(null, null, null).callerDropsTrace(false);
    }

    /** Adds the fields of the open scopes; an inner one takes precedence over an outer one with the same name. */
    public static void addFields(Draft draft) {
        addFields(draft, innermost());
    }

    static void addFields(Draft draft, Frame innermost) {
        for (Frame frame = innermost; frame != null; frame = frame.outer()) {
            draft.missingFields(frame.fields());
        }
    }

    /** Returns the level of detail that the caller of the request has asked for; null for none. */
    public static String detail() {
        for (Frame frame = innermost(); frame != null; frame = frame.outer()) {
            if (frame.detail() != null) {
                return frame.detail();
            }
        }
        return null;
    }

    /** Returns the fields of the open scopes. */
    public static Fields fields() {
        Fields fields = Fields.NONE;
        for (Frame frame = innermost(); frame != null; frame = frame.outer()) {
            fields = Fields.union(fields, frame.fields());
        }
        return fields;
    }

    /** Returns the names of all open scopes of the thread, the innermost first, also beyond edges. */
    public static List<String> names() {
        List<String> names = new ArrayList<>();
        for (Frame frame = innermost(); frame != null; frame = frame.below) {
            if (!frame.isClosed()) {
                names.add(frame.name());
            }
        }
        return names;
    }

    /** Removes closed frames from the top, and returns the innermost open frame, or null. */
    static Frame open(Object[] place) {
        Frame top = (Frame) place[0];
        while (top != null && top.isClosed()) {
            top = top.below;
        }
        if (place[0] != top) { // storing it costs more than the comparison
            place[0] = top;
        }
        return top;
    }

    /** Closes the frames above a frame of this thread that was closed, unless an edge is between. */
    static void closed(Frame frame) {
        Object[] place = place();
        List<Frame> left = List.of();
        if (place[0] != frame && isAboveAll(frame, (Frame) place[0])) {
            left = new ArrayList<>();
            for (Frame above = (Frame) place[0]; above != frame; above = above.below) {
                if (!above.isClosed()) {
                    above.setClosed();
                    left.add(above);
                }
            }
        }
        // A report is an event like any other and has a context, which must be right before the report is made.
        boolean wasOnTop = place[0] == frame;
        open(place);
        if (frame.isEdge()) {
            left.forEach(above -> above.report(Misuse.NEVER_CLOSED, above.name()));
        } else if (!wasOnTop) {
            frame.report(Misuse.OUT_OF_ORDER, frame.name());
        }
    }

    /** Returns whether all frames from the top down to this one belong to its work: there is no other edge between. */
    private static boolean isAboveAll(Frame frame, Frame top) {
        for (Frame above = top; above != frame; above = above.below) {
            if (above == null || above.isEdge() && !frame.isEdge()) {
                return false;
            }
        }
        return true;
    }
}
