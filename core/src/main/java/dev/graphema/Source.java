package dev.graphema;

import dev.graphema.event.Level;

/** What loggers of one name share, and settings change while they are used. */
final class Source {
    private final String name;
    private final LoggerTree tree;

    // Volatile, so that a change is seen by all threads soon; reading one costs no more than reading any other field.
    private volatile int threshold;
    private volatile boolean tellsCaller;

    Source(String name, LoggerTree tree, Level threshold, boolean tellsCaller) {
        this.name = name;
        this.tree = tree;
        set(threshold, tellsCaller);
    }

    void set(Level threshold, boolean tellsCaller) {
        this.threshold = threshold.severity();
        this.tellsCaller = tellsCaller;
    }

    String name() {
        return name;
    }

    LoggerTree tree() {
        return tree;
    }

    boolean takes(Level level) {
        return level.severity() >= threshold && level != Level.OFF;
    }

    /** Whether each event is to tell the class, method and line that said it. */
    boolean tellsCaller() {
        return tellsCaller;
    }
}
