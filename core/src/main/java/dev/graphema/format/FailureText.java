package dev.graphema.format;

import dev.graphema.event.Failure;

/** Formats failures like stack traces of the JDK. */
public final class FailureText {
    private FailureText() {}

    /** Returns the lines of a stack trace. */
    public static String of(Failure failure) {
        StringBuilder text = new StringBuilder();
        write(failure, "", "", text);
        return text.toString();
    }

    private static void write(Failure failure, String indent, String relation, StringBuilder to) {
        to.append(indent).append(relation).append(failure.type());
        if (failure.message() != null) {
            to.append(": ").append(failure.message());
        }
        to.append('\n');
        for (Failure.Frame frame : failure.frames()) {
            to.append(indent).append("\tat ").append(frame).append('\n');
        }
        int hidden = failure.sharedFrames() + failure.omittedFrames();
        if (hidden > 0) {
            to.append(indent).append("\t... ").append(hidden).append(" more\n");
        }
        for (Failure suppressed : failure.suppressed()) {
            write(suppressed, indent + "\t", "Suppressed: ", to);
        }
        if (failure.cause() != null) {
            write(failure.cause(), indent, "Caused by: ", to);
        }
    }
}
