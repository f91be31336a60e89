package dev.graphema.format;

import dev.graphema.event.Failure;
import dev.graphema.format.JsonMember.OfFailure;
import dev.graphema.text.Utf8Buffer;

/** Writes a failure as a JSON object. */
final class JsonFailure {
    private static final String FIRST = "{\"" + OfFailure.TYPE.text() + "\":";

    private JsonFailure() {}

    static void write(Failure failure, Utf8Buffer to) {
        to.ascii(FIRST);
        JsonText.string(failure.type(), to);
        if (failure.message() != null) {
            to.ascii(OfFailure.MESSAGE.following());
            JsonText.string(failure.message(), to);
        }
        to.ascii(OfFailure.FRAMES.following()).ascii('[');
        char before = 0;
        for (Failure.Frame frame : failure.frames()) {
            before = separated(before, to);
            JsonText.string(frame.toString(), to);
        }
        to.ascii(']');
        if (failure.sharedFrames() > 0) {
            to.ascii(OfFailure.SHARED.following()).number(failure.sharedFrames());
        }
        if (failure.omittedFrames() > 0) {
            to.ascii(OfFailure.OMITTED.following()).number(failure.omittedFrames());
        }
        if (failure.cause() != null) {
            to.ascii(OfFailure.CAUSE.following());
            write(failure.cause(), to);
        }
        if (!failure.suppressed().isEmpty()) {
            to.ascii(OfFailure.SUPPRESSED.following()).ascii('[');
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
