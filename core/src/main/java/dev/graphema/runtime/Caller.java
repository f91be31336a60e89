package dev.graphema.runtime;

import dev.graphema.event.Failure;
import java.util.Set;

/**
 * Finds the line of the program that emits an event by walking the stack. This takes about four microseconds, longer
 * than the rest of the call, so it is done only for the loggers that the settings list.
 */
final class Caller {
    private static final StackWalker STACK = StackWalker.getInstance();
    /** The packages through which a call comes; modules above are callers like any other. */
    private static final Set<String> OWN_PACKAGES =
            Set.of("dev.graphema", "dev.graphema.runtime", "dev.graphema.event", "dev.graphema.platform");

    private Caller() {}

    /** Returns the class, method and line that called this library, formatted by {@link Failure.Frame}. */
    static String current() {
        return STACK.walk(frames -> frames.filter(frame -> !isOwn(frame.getClassName()))
                .findFirst()
                .map(frame -> Failure.Frame.of(frame.toStackTraceElement()).toString())
                .orElse("unknown"));
    }

    private static boolean isOwn(String type) {
        return OWN_PACKAGES.contains(type.substring(0, Math.max(0, type.lastIndexOf('.'))));
    }
}
