package dev.graphema.lines.stack;

import dev.graphema.event.Failure;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Stack traces whose frames begin with {@code at}: of the JVM, Node.js and .NET. For one text. */
final class AtTrace {
    private static final Pattern HEAD =
            Pattern.compile("(?:Exception in thread \"[^\"]{0,200}\" |Unhandled exception\\. |Uncaught )?"
                    + "([A-Za-z_$][\\w$`]*(?:\\.[A-Za-z_$][\\w$`]*)*)(?: \\[\\w+\\])?(?:: ?(.*))?");
    /** A longer word is no type, and would exhaust the stack of the matcher. */
    private static final int LONGEST_TYPE = 1_000;

    private static final Pattern CALL = Pattern.compile("\\s*at (\\S.*)");
    private static final Pattern MORE = Pattern.compile("\\s*\\.\\.\\. (\\d{1,6}) (?:more|common frames omitted)");
    private static final String CAUSE = "Caused by: ";
    private static final String SUPPRESSED = "Suppressed: ";

    /** In .NET, an inner exception is written before the frames of the outer one. */
    private static final String INNER = "---> ";

    private static final String INNER_END = "--- End of inner exception stack trace ---";

    private final String[] lines;
    private int at;

    private AtTrace(String[] lines) {
        this.lines = lines;
    }

    /** Parses the lines; null if they do not begin with a failure. */
    static Failure parse(String[] lines) {
        return begins(lines[0], lines.length > 1 ? lines[1] : "") ? new AtTrace(lines).failure(lines[0], 0) : null;
    }

    /** Returns whether a line and the following one begin a failure. */
    static boolean begins(String line, String following) {
        boolean hasCalls =
                CALL.matcher(following).matches() || following.strip().startsWith(INNER);
        return head(line).matches() && (hasCalls || isType(line));
    }

    /** Returns whether a line begins a failure or its cause. */
    static boolean begins(String line) {
        return line.startsWith(CAUSE) || line.startsWith(SUPPRESSED) || isType(line);
    }

    /** Returns whether a line is a frame, or the number of further ones. */
    static boolean isFrame(String line) {
        return CALL.matcher(line).matches()
                || MORE.matcher(line).matches()
                || line.strip().equals(INNER_END);
    }

    /** Matches type and message; nothing if the first word is longer than any type. */
    private static Matcher head(String line) {
        int end = 0;
        while (end < line.length() && line.charAt(end) > ' ' && line.charAt(end) != ':') {
            end++;
        }
        return HEAD.matcher(end <= LONGEST_TYPE ? line : "");
    }

    private static boolean isType(String line) {
        Matcher head = head(line);
        return head.matches()
                && (head.group(1).endsWith("Exception") || head.group(1).endsWith("Error"));
    }

    /** Reads a failure whose lines have this indentation or a deeper one. */
    private Failure failure(String headLine, int indentation) {
        Matcher head = head(headLine);
        if (!head.matches()) {
            return new Failure("unknown", headLine, List.of(), 0, 0, null, List.of());
        }
        StringBuilder message = head.group(2) == null ? null : new StringBuilder(head.group(2));
        List<Failure.Frame> frames = new ArrayList<>();
        List<Failure> suppressed = new ArrayList<>();
        Failure cause = null;
        int shared = 0;
        for (at++; at < lines.length; at++) {
            String line = lines[at].strip();
            if (indentation(lines[at]) < indentation) {
                at--; // it belongs to the enclosing failure
                break;
            }
            Matcher call = CALL.matcher(lines[at]);
            Matcher more = MORE.matcher(lines[at]);
            if (more.matches()) {
                shared = Integer.parseInt(more.group(1));
            } else if (line.equals(INNER_END)) {
                return failure(head.group(1), message, frames, shared, cause, suppressed);
            } else if (call.matches()) {
                frames.add(FrameText.parse(call.group(1).strip()));
            } else if (line.startsWith(CAUSE)) {
                cause = failure(line.substring(CAUSE.length()), indentation);
                break;
            } else if (line.startsWith(INNER)) {
                cause = failure(line.substring(INNER.length()), indentation);
            } else if (line.startsWith(SUPPRESSED)) {
                suppressed.add(failure(line.substring(SUPPRESSED.length()), indentation(lines[at])));
            } else if (message != null && frames.isEmpty() && cause == null) {
                message.append('\n').append(lines[at]);
            }
        }
        return failure(head.group(1), message, frames, shared, cause, suppressed);
    }

    private static int indentation(String line) {
        int spaces = 0;
        while (spaces < line.length() && line.charAt(spaces) <= ' ') {
            spaces++;
        }
        return spaces;
    }

    private static Failure failure(
            String type,
            StringBuilder message,
            List<Failure.Frame> frames,
            int shared,
            Failure cause,
            List<Failure> suppressed) {
        return new Failure(type, message == null ? null : message.toString(), frames, shared, 0, cause, suppressed);
    }
}
