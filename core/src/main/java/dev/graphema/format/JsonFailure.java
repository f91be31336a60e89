package dev.graphema.format;

import dev.graphema.event.Failure;
import dev.graphema.event.Frame;

/** Writes a failure as a JSON object. */
final class JsonFailure {
    private JsonFailure() {}

    static void write(Failure failure, Utf8Buffer to) {
        to.ascii("{\"type\":");
        JsonText.string(failure.type(), to);
        if (failure.message() != null) {
            to.ascii(",\"message\":");
            JsonText.string(failure.message(), to);
        }
        to.ascii(",\"frames\":[");
        char before = 0;
        for (Frame frame : failure.frames()) {
            before = separated(before, to);
            JsonText.string(frame.toString(), to);
        }
        to.ascii(']');
        if (failure.sharedFrames() > 0) {
            to.ascii(",\"shared\":").number(failure.sharedFrames());
        }
        if (failure.omittedFrames() > 0) {
            to.ascii(",\"omitted\":").number(failure.omittedFrames());
        }
        if (failure.cause() != null) {
            to.ascii(",\"cause\":");
            write(failure.cause(), to);
        }
        if (!failure.suppressed().isEmpty()) {
            to.ascii(",\"suppressed\":[");
            before = 0;
            for (Failure each : failure.suppressed()) {
                before = separated(before, to);
                write(each, to);
            }
            to.ascii(']');
        }
        to.ascii('}');
    }

    private static char separated(char before, Utf8Buffer to) {
        if (before != 0) {
            to.ascii(before);
        }
        return ',';
    }
}
