package dev.graphema;

import dev.graphema.event.Level;
import dev.graphema.failure.FailurePolicy;

/** The state that all loggers of one name share, and that settings change at run time. */
final class Source {
    /** The result of {@link #admit} for a rejected event. */
    static final long REFUSED = -1;

    private static final int OFF = 0xFF;

    private final String name;
    private final LoggerTree tree;

    // One number, so that the accepted levels and the generation of the settings are always read together: the lowest
    // severity
    // that may be accepted (8 bits), the severity from which all events are (8 bits), and the generation. It is
    // volatile, so that
    // all threads see a change soon; a volatile read costs no more than a plain one here.
    private volatile long admission;
    private volatile boolean tellsCaller;

    Source(String name, LoggerTree tree) {
        this.name = name;
        this.tree = tree;
    }

    /**
     * @param threshold from which level on every event is let in
     * @param floor from which level on one is let in when detail was raised for it; OFF when it is for nobody
     */
    void set(Level threshold, Level floor, long generation, boolean tellsCaller) {
        int from = severity(threshold);
        this.admission = generation << 16 | (long) from << 8 | Math.min(from, severity(floor));
        this.tellsCaller = tellsCaller;
    }

    String name() {
        return name;
    }

    LoggerTree tree() {
        return tree;
    }

    boolean takes(Level level) {
        return admit(level) != REFUSED;
    }

    /** Returns the generation of the settings that accept an event of this level, or {@link #REFUSED}. */
    long admit(Level level) {
        long now = admission;
        int severity = level.severity();
        if (severity < (now & 0xFF)) {
            return REFUSED;
        }
        boolean isIn = severity >= (now >>> 8 & 0xFF)
                ? severity < OFF
                : tree.steering().isRaised(level);
        return isIn ? now >>> 16 : REFUSED;
    }

    /** Whether events contain the calling class, method and line. */
    boolean tellsCaller() {
        return tellsCaller;
    }

    /** Counts an event that could not be created. Throws only {@link OutOfMemoryError}. */
    void refuse(Throwable problem) {
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
