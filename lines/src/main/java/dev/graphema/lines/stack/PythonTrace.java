package dev.graphema.lines.stack;

import dev.graphema.event.Failure;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Stack traces of Python: the innermost frame is the last one, followed by the failure; causes come first. */
final class PythonTrace {
    private static final String HEAD = "Traceback (most recent call last)";
    private static final String DIRECT = "The above exception was the direct cause";
    private static final String DURING = "During handling of the above exception";
    private static final Pattern CALL = Pattern.compile("\\s*File \"([^\"]+)\", line (\\d{1,9})(?:, in (.+))?");
    private static final Pattern FAILURE = Pattern.compile("([A-Za-z_][\\w.]*)(?:: ?(.*))?");

    private PythonTrace() {}

    static boolean begins(String line) {
        return line.startsWith(HEAD) || line.startsWith(DIRECT) || line.startsWith(DURING);
    }

    /** Returns whether a line can be the type and message that end a trace. */
    static boolean ends(String line) {
        return FAILURE.matcher(line).matches();
    }

    static Failure parse(String[] lines) {
        Failure cause = null;
        Failure last = null;
        List<Failure.Frame> frames = new ArrayList<>();
        StringBuilder message = null;
        String type = null;
        for (String line : lines) {
            Matcher call = CALL.matcher(line);
            Matcher failure = FAILURE.matcher(line);
            if (line.startsWith(HEAD)) {
                cause = type == null ? last : failure(type, message, frames, last);
                last = cause;
                frames = new ArrayList<>();
                type = null;
            } else if (call.matches()) {
                String in = call.group(3) == null ? "" : call.group(3);
                frames.add(0, new Failure.Frame(call.group(1), in, call.group(1), Integer.parseInt(call.group(2))));
            } else if (type == null && !begins(line) && failure.matches() && !frames.isEmpty()) {
                type = failure.group(1);
                message = failure.group(2) == null ? null : new StringBuilder(failure.group(2));
            } else if (type != null && message != null && !begins(line)) {
                message.append('\n').append(line);
            }
        }
        String text = message == null ? null : message.toString().stripTrailing();
        return new Failure(
                type == null ? "unknown" : type,
                type == null ? lines[lines.length - 1] : text,
                frames,
                0,
                0,
                cause,
                List.of());
    }

    private static Failure failure(String type, StringBuilder message, List<Failure.Frame> frames, Failure cause) {
        String text = message == null ? null : message.toString().stripTrailing();
        return new Failure(type, text, frames, 0, 0, cause, List.of());
    }
}
