package dev.graphema;

import dev.graphema.event.Level;
import dev.graphema.failure.FailurePolicy;

/** What loggers of one name share, and settings change while they are used. */
final class Source {
    /** What {@link #admit} returns for an event that is refused. */
    static final long REFUSED = -1;

    private static final int OFF = 0xFF;

    private final String name;
    private final LoggerTree tree;

    // One number, so that what lets an event in and the settings that it comes from are never read apart: the lowest
    // severity
    // that may be let in (8 bits), the severity from which all are (8 bits), the generation of the settings. Volatile,
    // so that
    // a change is seen by all threads soon; reading one costs no more than reading any other field.
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

    /** The generation of the settings that let an event of that level in, or {@link #REFUSED}. */
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

    /** Whether each event is to tell the class, method and line that said it. */
    boolean tellsCaller() {
        return tellsCaller;
    }

    /** An event could not be made: it is counted, and nothing but {@link OutOfMemoryError} reaches the caller. */
    void refuse(Throwable problem) {
        try {
            tree.receiver().refuse(problem);
        } catch (StackOverflowError e) {
            tree.refusedWithoutStack++; // there is not even room for a call
        } catch (Throwable e) {
            FailurePolicy.contain(e);
        }
        FailurePolicy.contain(problem);
    }

    private static int severity(Level level) {
        return Math.min(level.severity(), OFF);
    }
}
