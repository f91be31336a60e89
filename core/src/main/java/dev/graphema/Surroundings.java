package dev.graphema;

import dev.graphema.event.Draft;
import dev.graphema.event.Fields;
import java.lang.ref.WeakReference;
import java.security.SecureRandom;
import java.util.SplittableRandom;

/**
 * What one thread stands in: a stack of open scopes, innermost on top, each with fields, a correlation, or both. A scope
 * that is closed below the top stays where it is, without effect, until those above it are closed.
 */
final class Surroundings {
    private static final SplittableRandom SEEDS = new SplittableRandom(new SecureRandom().nextLong());
    private static final ThreadLocal<Surroundings> OF_THREAD = ThreadLocal.withInitial(Surroundings::new);

    private final SplittableRandom random;
    private Frame top;
    private WeakReference<Throwable> recorded = new WeakReference<>(null);

    private Surroundings() {
        synchronized (SEEDS) {
            random = SEEDS.split();
        }
    }

    /** Those of the current thread. */
    static Surroundings here() {
        return OF_THREAD.get();
    }

    Scope open(Fields fields, Correlation correlation) {
        top = new Frame(this, top, fields, correlation);
        return top;
    }

    Correlation correlation() {
        for (Frame frame = open(); frame != null; frame = frame.below) {
            if (frame.correlation != null && !frame.closed) {
                return frame.correlation;
            }
        }
        return Correlation.NONE;
    }

    /** Adds the fields of the open scopes, the innermost first, so that it wins where names are the same. */
    void addFields(Draft draft) {
        for (Frame frame = open(); frame != null; frame = frame.below) {
            if (!frame.closed) {
                draft.missingFields(frame.fields);
            }
        }
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

    private Frame open() {
        while (top != null && top.closed) {
            top = top.below;
        }
        return top;
    }

    private static final class Frame implements Scope {
        private final Surroundings owner;
        private final Frame below;
        private final Fields fields;
        private final Correlation correlation;

        // Volatile, since another thread may close the scope; the owner then drops it when it next looks.
        private volatile boolean closed;

        Frame(Surroundings owner, Frame below, Fields fields, Correlation correlation) {
            this.owner = owner;
            this.below = below;
            this.fields = fields;
            this.correlation = correlation;
        }

        @Override
        public void close() {
            closed = true;
            if (owner == OF_THREAD.get()) {
                owner.open();
            }
        }
    }
}
