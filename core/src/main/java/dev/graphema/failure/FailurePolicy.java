package dev.graphema.failure;

import java.io.IOException;
import java.io.UncheckedIOException;

/**
 * The failure policy of all stages. A boundary is a place where Graphema calls code that may throw anything: a field
 * supplier, a {@code toString}, a throwable's own methods, a detector, a format, a sink, or its own code on behalf of a
 * caller. Every boundary catches {@link Throwable} and asks this class what to do.
 *
 * <table>
 * <caption>What each stage does</caption>
 * <tr><th>stage</th><th>thread</th><th>what failed</th><th>consequence</th><th>counted and shown</th></tr>
 * <tr><td>fields, {@code toString}, throwable</td><td>caller</td><td>code</td><td>the field contains the name of the
 *     exception's class</td><td>in the event</td></tr>
 * <tr><td>redaction</td><td>caller</td><td>code</td><td>the text is withheld</td><td>withheld</td></tr>
 * <tr><td>capture, sampling, routing</td><td>caller</td><td>code</td><td>the event is refused</td><td>refused, first one
 *     reported</td></tr>
 * <tr><td>hand-over</td><td>caller</td><td>code, machine</td><td>the event is lost for this sink</td><td>lost</td></tr>
 * <tr><td>sink</td><td>sink</td><td>environment</td><td>the event or batch is tried again, with growing pauses, until the
 *     sink is closed</td><td>error</td></tr>
 * <tr><td>sink</td><td>sink</td><td>machine</td><td>tried again {@value #ATTEMPTS} times, then lost</td><td>error,
 *     lost</td></tr>
 * <tr><td>sink, writing an event</td><td>sink</td><td>code</td><td>the event is lost</td><td>error, lost</td></tr>
 * <tr><td>sink, flushing</td><td>sink</td><td>code</td><td>tried again {@value #ATTEMPTS} times, then the batch is
 *     lost</td><td>error, lost</td></tr>
 * <tr><td>settings watch, old files, spool, management</td><td>background</td><td>anything</td><td>reported; the thread
 *     continues</td><td>reported</td></tr>
 * </table>
 *
 * <p>Only {@link OutOfMemoryError} is rethrown to a caller, because the program must learn that its heap is exhausted; the
 * event is counted as refused all the same. A {@link StackOverflowError} belongs to the code that overflowed, and is treated
 * like any other error of that code.
 */
public final class FailurePolicy {
    /** How often a sink's operation is attempted when the failure is not one of its environment. */
    public static final int ATTEMPTS = 3;

    private FailurePolicy() {}

    /** What is at fault. */
    public enum Cause {
        /** A disk, a network, a receiver: the same operation may succeed later. */
        ENVIRONMENT,
        /** The JVM lacks memory or its mapping of a file failed: the same operation may succeed later, or never. */
        MACHINE,
        /** The code or the event: the same operation will most likely fail again. */
        CODE
    }

    /** The cause of a failure. */
    public static Cause cause(Throwable problem) {
        if (problem instanceof IOException || problem instanceof UncheckedIOException) {
            return Cause.ENVIRONMENT;
        }
        return problem instanceof OutOfMemoryError || problem instanceof InternalError ? Cause.MACHINE : Cause.CODE;
    }

    /**
     * To be called first in each catch block on a caller's thread.
     *
     * @throws OutOfMemoryError when the problem is one: the only failure that reaches a caller
     */
    public static void contain(Throwable problem) {
        if (problem instanceof OutOfMemoryError memory) {
            throw memory;
        }
    }

    /**
     * Runs background work. An exception or error is reported and does not end the thread.
     *
     * @param work what the thread does
     * @param reporter receives the problem; what it throws itself is dropped, because nobody is left to report it to
     */
    public static void inBackground(Runnable work, Reporter reporter) {
        try {
            work.run();
        } catch (Throwable e) {
            report(reporter, e);
        }
    }

    private static void report(Reporter reporter, Throwable problem) {
        try {
            reporter.failed(problem);
        } catch (Throwable e) {
            // No memory for a report, or a reporter that fails: the thread's own work matters more.
            return;
        }
    }

    /** Receives what background work throws. */
    @FunctionalInterface
    public interface Reporter {
        void failed(Throwable problem);
    }
}
