package dev.graphema;

import dev.graphema.event.Frame;

/**
 * Finds the line of the program that emits an event by walking the stack. This takes about four microseconds, longer
 * than the rest of the call, so it is done only for the loggers that the settings list.
 */
final class Caller {
    private static final StackWalker STACK = StackWalker.getInstance();
    private static final String OWN_PACKAGE = Caller.class.getPackageName();

    private Caller() {}

    /** Returns the class, method and line that called this library, formatted by {@link Frame}. */
    static String current() {
        return STACK.walk(frames -> frames.filter(frame -> !isOwn(frame.getClassName()))
                .findFirst()
                .map(frame -> Frame.of(frame.toStackTraceElement()).toString())
                .orElse("unknown"));
    }

    private static boolean isOwn(String type) {
        // This package and dev.graphema.event, through which the call back comes; modules above are callers as any
        // other.
        return type.startsWith(OWN_PACKAGE + ".event.")
                || type.startsWith(OWN_PACKAGE) && type.lastIndexOf('.') == OWN_PACKAGE.length();
    }
}
