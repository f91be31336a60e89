package dev.graphema;

import dev.graphema.event.Draft;
import dev.graphema.event.Fields;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicIntegerFieldUpdater;

/**
 * The open scopes of the current thread: a stack, innermost on top, each with fields, a correlation, or both.
 *
 * <p>Closing a scope restores what was there before it was opened: scopes that were opened later and are still open are
 * closed with it, and this is reported. An <em>edge</em> ends that: it is the scope of a request, or of a task that was
 * carried over from another thread. Nothing beyond it is seen within, and a scope beyond it that is closed late goes alone,
 * without touching what belongs to the edge. When the edge is closed, everything above it goes, too, so that a pooled thread
 * does not keep the context of one request for the next. A scope that another thread closes goes alone when its own thread
 * looks next.
 *
 * <p>The thread-local value is an array of the JDK's own and not an object of this class: a thread that outlives the class
 * loader of this library must not keep its classes in memory.
 */
final class ThreadFrames {
    /** One element: the innermost frame, or null. */
    private static final ThreadLocal<Object[]> TOP = new ThreadLocal<>();

    private ThreadFrames() {}

    private static Object[] place() {
        Object[] place = TOP.get();
        if (place == null) {
            place = new Object[1];
            TOP.set(place);
        }
        return place;
    }

    /** Opens a scope within those that are open. */
    static Scope open(String name, Fields fields, Correlation correlation) {
        return push(name, fields, correlation, Operation.NONE, false);
    }

    /** Opens a scope within which nothing of those that are open is seen. */
    static Scope openEdge(String name, Fields fields, Correlation correlation) {
        return push(name, fields, correlation, Operation.NONE, true);
    }

    /** Opens the scope of an operation within those that are open. */
    static Scope open(Operation operation) {
        return push(operation.toString(), Fields.NONE, operation.correlation(), operation, false);
    }

    /** Opens the scope of an operation that another process has asked for: an edge, with the fields that came along. */
    static Scope openEdge(Operation operation) {
        Correlation correlation = operation.correlation();
        return push(operation.toString(), correlation.outsideFields(), correlation, operation, true);
    }

    private static Scope push(String name, Fields fields, Correlation correlation, Operation operation, boolean edge) {
        Object[] place = place();
        Frame frame = new Frame(Thread.currentThread(), seen(place), name, fields, correlation, operation, edge);
        place[0] = frame;
        return frame;
    }

    /** The innermost operation. */
    static Operation operation() {
        for (Frame frame = seen(place()); frame != null; frame = frame.next()) {
            if (frame.operation != Operation.NONE && !frame.isClosed()) {
                return frame.operation;
            }
        }
        return Operation.NONE;
    }

    static Correlation correlation() {
        for (Frame frame = seen(place()); frame != null; frame = frame.next()) {
            if (frame.correlation != null && !frame.isClosed()) {
                return frame.correlation;
            }
        }
        return Correlation.NONE;
    }

    /** The loggers of the runtime to which this thread's work belongs: the shared ones, except within an isolated one's. */
    static LoggerTree tree() {
        LoggerTree tree = correlation().tree();
        return tree == null ? LoggerTree.SHARED : tree;
    }

    /** Adds the fields of the open scopes, the innermost first, so that it wins where names are the same. */
    static void addFields(Draft draft) {
        for (Frame frame = seen(place()); frame != null; frame = frame.next()) {
            if (!frame.isClosed()) {
                draft.missingFields(frame.fields);
            }
        }
    }

    /** The fields of the open scopes as one. */
    static Fields fields() {
        Fields fields = Fields.NONE;
        for (Frame frame = seen(place()); frame != null; frame = frame.next()) {
            if (!frame.isClosed()) {
                fields = Fields.union(fields, frame.fields);
            }
        }
        return fields;
    }

    /** The names of the open scopes, the innermost first. */
    static List<String> names() {
        List<String> names = new ArrayList<>();
        for (Frame frame = seen(place()); frame != null; frame = frame.below) {
            if (!frame.isClosed()) {
                names.add(frame.name());
            }
        }
        return names;
    }

    /** The innermost open scope, or null. */
    private static Frame seen(Object[] place) {
        Frame top = (Frame) place[0];
        while (top != null && top.isClosed()) {
            top = top.below;
        }
        place[0] = top;
        return top;
    }

    /** A frame of this thread was closed: closes those above it, unless an edge lies between. */
    private static void closed(Frame frame) {
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
        seen(place);
        if (frame.edge) {
            left.forEach(above -> Misuse.NEVER_CLOSED.report(above.name()));
        } else if (!wasOnTop) {
            Misuse.OUT_OF_ORDER.report(frame.name());
        }
    }

    /** Whether all frames from the top down to this one belong to its work: there is no other edge between. */
    private static boolean isAboveAll(Frame frame, Frame top) {
        for (Frame above = top; above != frame; above = above.below) {
            if (above == null || above.edge && !frame.edge) {
                return false;
            }
        }
        return true;
    }

    private static final class Frame implements Scope {
        private static final AtomicIntegerFieldUpdater<Frame> CLOSED =
                AtomicIntegerFieldUpdater.newUpdater(Frame.class, "closed");

        private final Thread owner;
        private final Frame below;
        private final String name;
        private final Fields fields;
        private final Correlation correlation;
        private final Operation operation;
        private final boolean edge;

        /**
         * 1 when it is closed. Another thread may close the scope, and the owner drops it when it next looks; nobody waits for that, so that it is
         * written without waiting until all processors see it.
         */
        private volatile int closed;

        Frame(
                Thread owner,
                Frame below,
                String name,
                Fields fields,
                Correlation correlation,
                Operation operation,
                boolean edge) {
            this.owner = owner;
            this.below = below;
            this.name = name;
            this.fields = fields;
            this.correlation = correlation;
            this.operation = operation;
            this.edge = edge;
        }

        private boolean isClosed() {
            return closed != 0;
        }

        private void setClosed() {
            CLOSED.lazySet(this, 1);
        }

        /** The next scope further out that can be seen from within this one, or null. */
        private Frame next() {
            return edge ? null : below;
        }

        /** What a report calls it: its name, or those of its fields. */
        private String name() {
            return name == null ? "context of " + fields.toMap().keySet() : name;
        }

        @Override
        public void close() {
            if (isClosed()) {
                return;
            }
            setClosed();
            if (owner == Thread.currentThread()) {
                closed(this);
            } else {
                Misuse.OTHER_THREAD.report(name());
            }
        }
    }
}
