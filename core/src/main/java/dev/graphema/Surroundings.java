package dev.graphema;

import dev.graphema.event.Draft;
import dev.graphema.event.Fields;
import java.io.IOException;
import java.io.InputStream;
import java.lang.ref.WeakReference;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import java.util.concurrent.atomic.AtomicIntegerFieldUpdater;

/**
 * What one thread stands in: a stack of open scopes, innermost on top, each with fields, a correlation, or both.
 *
 * <p>Scopes are meant to be closed from the top down, by the thread that opened them. One that is closed below the top
 * stays where it is, without effect, until those above it are closed; one that another thread closes goes when its own
 * thread next looks. Either is reported.
 *
 * <p>An <em>edge</em> is a scope beyond which nothing is seen: a request's, or that of a task which was carried over from
 * another thread. When it is closed, everything above it goes too, and the thread is as it was before: that is what keeps
 * a pooled thread from carrying one request's context into the next.
 */
final class Surroundings {
    private static final SplittableRandom SEEDS = new SplittableRandom(seed());
    private static final ThreadLocal<Surroundings> OF_THREAD = ThreadLocal.withInitial(Surroundings::new);

    private final Thread thread = Thread.currentThread();
    private final SplittableRandom random;
    private Frame top;
    private WeakReference<Throwable> recorded = new WeakReference<>(null);

    private Surroundings() {
        synchronized (SEEDS) {
            random = SEEDS.split();
        }
    }

    /** Where the system has random bytes in a file, they come without the JDK's providers of them, which take long to load. */
    private static long seed() {
        try (InputStream random = Files.newInputStream(Path.of("/dev/urandom"))) {
            return ByteBuffer.wrap(random.readNBytes(Long.BYTES)).getLong();
        } catch (IOException | RuntimeException e) {
            return new SecureRandom().nextLong();
        }
    }

    /** Those of the current thread. */
    static Surroundings here() {
        return OF_THREAD.get();
    }

    /** Opens a scope within those that are open. */
    Scope open(String name, Fields fields, Correlation correlation) {
        return push(new Frame(this, seen(), name, fields, correlation, Operation.NONE, false));
    }

    /** Opens a scope within which nothing of those that are open is seen. */
    Scope openEdge(String name, Fields fields, Correlation correlation) {
        return push(new Frame(this, seen(), name, fields, correlation, Operation.NONE, true));
    }

    /** Opens the scope of an operation within those that are open. */
    Scope open(Operation operation) {
        return push(
                new Frame(this, seen(), operation.toString(), Fields.NONE, operation.correlation(), operation, false));
    }

    /** Opens the scope of an operation that another process has asked for: an edge, with the fields that came along. */
    Scope openEdge(Operation operation) {
        Correlation correlation = operation.correlation();
        return push(new Frame(
                this, seen(), operation.toString(), correlation.outsideFields(), correlation, operation, true));
    }

    /** The innermost operation. */
    Operation operation() {
        for (Frame frame = seen(); frame != null; frame = frame.next()) {
            if (frame.operation != Operation.NONE && !frame.isClosed()) {
                return frame.operation;
            }
        }
        return Operation.NONE;
    }

    Correlation correlation() {
        for (Frame frame = seen(); frame != null; frame = frame.next()) {
            if (frame.correlation != null && !frame.isClosed()) {
                return frame.correlation;
            }
        }
        return Correlation.NONE;
    }

    /** Adds the fields of the open scopes, the innermost first, so that it wins where names are the same. */
    void addFields(Draft draft) {
        for (Frame frame = seen(); frame != null; frame = frame.next()) {
            if (!frame.isClosed()) {
                draft.missingFields(frame.fields);
            }
        }
    }

    /** The fields of the open scopes as one. */
    Fields fields() {
        Fields fields = Fields.NONE;
        for (Frame frame = seen(); frame != null; frame = frame.next()) {
            if (!frame.isClosed()) {
                fields = Fields.union(fields, frame.fields);
            }
        }
        return fields;
    }

    /** The names of the open scopes, the innermost first. */
    List<String> names() {
        List<String> names = new ArrayList<>();
        for (Frame frame = seen(); frame != null; frame = frame.below) {
            if (!frame.isClosed()) {
                names.add(frame.name());
            }
        }
        return names;
    }

    /** 64 random bits, never all zero. */
    long nextId() {
        long id;
        do {
            id = random.nextLong();
        } while (id == 0);
        return id;
    }

    /** Notes that an event tells of the throwable. */
    void record(Throwable failure) {
        recorded = new WeakReference<>(failure);
    }

    /** Whether an event of this thread has told of the throwable, or of one of its causes, just before. */
    boolean isRecorded(Throwable failure) {
        Throwable last = recorded.get();
        Throwable cause = failure;
        for (int i = 0; last != null && cause != null && i < 16; i++, cause = cause.getCause()) {
            if (cause == last) {
                return true;
            }
        }
        return false;
    }

    private Scope push(Frame frame) {
        top = frame;
        return frame;
    }

    /** The innermost open scope, or null. */
    private Frame seen() {
        while (top != null && top.isClosed()) {
            top = top.below;
        }
        return top;
    }

    private void closed(Frame frame) {
        // A report is an event like any other and looks at the open scopes, so these have to be right before it is
        // made.
        if (top == frame) {
            seen();
            return;
        }
        boolean inOrder = frame.edge;
        List<Frame> left = new ArrayList<>();
        for (Frame above = top; frame.edge && above != null && above != frame; above = above.below) {
            if (!above.isClosed()) {
                above.setClosed();
                left.add(above);
            }
        }
        seen();
        left.forEach(above -> Misuse.NEVER_CLOSED.report(above.name()));
        if (!inOrder) {
            Misuse.OUT_OF_ORDER.report(frame.name());
        }
    }

    private static final class Frame implements Scope {
        private static final AtomicIntegerFieldUpdater<Frame> CLOSED =
                AtomicIntegerFieldUpdater.newUpdater(Frame.class, "closed");

        private final Surroundings owner;
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
                Surroundings owner,
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
            if (owner.thread == Thread.currentThread()) {
                owner.closed(this);
            } else {
                Misuse.OTHER_THREAD.report(name());
            }
        }
    }
}
