package dev.graphema.lines.form;

import dev.graphema.event.Failure;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Parses printed stack traces. */
public final class FailureLines {
    private static final Pattern HEAD = Pattern.compile(
            "(?:Exception in thread \"[^\"]{0,200}\" )?([A-Za-z_$][\\w$]*(?:\\.[A-Za-z_$][\\w$]*)*)(?:: ?(.*))?");
    private static final Pattern CALL = Pattern.compile("\\s*at (?:[\\w.@]+//?)?(\\S.*)");
    private static final Pattern MORE = Pattern.compile("\\s*\\.\\.\\. (\\d{1,6}) (?:more|common frames omitted)");
    private static final Pattern SCRIPT_CALL = Pattern.compile("\\s*File \"([^\"]+)\", line (\\d{1,9})(?:, in (.+))?");
    private static final String CAUSE = "Caused by: ";
    private static final String SUPPRESSED = "Suppressed: ";
    private static final String SCRIPT_HEAD = "Traceback (most recent call last)";

    private final String[] lines;
    private int at;

    private FailureLines(String text) {
        lines = text.split("\\R");
    }

    /** Parses the failure in a text; null if there is none. */
    static Failure parse(String text) {
        FailureLines lines = new FailureLines(text.strip());
        if (lines.lines[0].startsWith(SCRIPT_HEAD)) {
            return lines.script();
        }
        return lines.isHead(lines.lines[0]) ? lines.failure(lines.lines[0]) : null;
    }

    /** Returns whether a line continues the previous one. */
    static boolean isContinuation(String line) {
        return line.startsWith(" ")
                || line.startsWith("\t")
                || line.startsWith(CAUSE)
                || line.startsWith(SUPPRESSED)
                || line.startsWith("... ")
                || line.startsWith("at ")
                || line.startsWith(SCRIPT_HEAD)
                || isType(line);
    }

    private static boolean isType(String line) {
        Matcher head = HEAD.matcher(line);
        return head.matches()
                && (head.group(1).endsWith("Exception") || head.group(1).endsWith("Error"));
    }

    private boolean isHead(String line) {
        Matcher head = HEAD.matcher(line);
        boolean hasCalls = lines.length > 1 && CALL.matcher(lines[1]).matches();
        return head.matches() && (hasCalls || isType(line));
    }

    private Failure failure(String headLine) {
        Matcher head = HEAD.matcher(headLine);
        if (!head.matches()) {
            return new Failure("unknown", headLine, List.of(), 0, 0, null, List.of());
        }
        StringBuilder message = head.group(2) == null ? null : new StringBuilder(head.group(2));
        List<Failure.Frame> frames = new ArrayList<>();
        List<Failure> suppressed = new ArrayList<>();
        Failure cause = null;
        int shared = 0;
        for (at++; at < lines.length; at++) {
            String line = lines[at];
            Matcher call = CALL.matcher(line);
            Matcher more = MORE.matcher(line);
            if (more.matches()) {
                shared = Integer.parseInt(more.group(1));
            } else if (call.matches()) {
                frames.add(Failure.Frame.parse(call.group(1).strip()));
            } else if (line.strip().startsWith(CAUSE)) {
                cause = failure(line.strip().substring(CAUSE.length()));
                break;
            } else if (line.strip().startsWith(SUPPRESSED)) {
                suppressed.add(failure(line.strip().substring(SUPPRESSED.length())));
                at--;
            } else if (message != null && frames.isEmpty()) {
                message.append('\n').append(line);
            }
        }
        return new Failure(
                head.group(1), message == null ? null : message.toString(), frames, shared, 0, cause, suppressed);
    }

    /** In this form, the innermost frame is the last one, followed by the failure. */
    private Failure script() {
        List<Failure.Frame> frames = new ArrayList<>();
        String last = lines[lines.length - 1];
        for (String line : lines) {
            Matcher call = SCRIPT_CALL.matcher(line);
            if (call.matches()) {
                String in = call.group(3) == null ? "" : call.group(3);
                frames.add(0, new Failure.Frame(call.group(1), in, call.group(1), Integer.parseInt(call.group(2))));
            }
        }
        Matcher head = HEAD.matcher(last);
        return head.matches()
                ? new Failure(head.group(1), head.group(2), frames, 0, 0, null, List.of())
                : new Failure("unknown", last, frames, 0, 0, null, List.of());
    }
}
