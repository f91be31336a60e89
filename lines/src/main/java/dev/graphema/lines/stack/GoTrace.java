package dev.graphema.lines.stack;

import dev.graphema.event.Failure;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Stack traces of Go: a panic, and the functions of a goroutine, each followed by its place. */
final class GoTrace {
    private static final Pattern HEAD = Pattern.compile("(panic|fatal error): (.*)");
    private static final Pattern GOROUTINE =
            Pattern.compile("goroutine \\d+ (?:gp=\\S+ m=\\S+ (?:mp=\\S+ )?)?\\[.*\\]:");
    private static final Pattern FUNCTION =
            Pattern.compile("(?:(\\S+)\\([^()]*\\)|created by (\\S+)(?: in goroutine \\d+)?)");
    private static final Pattern PLACE = Pattern.compile("\\s+(\\S+):(\\d{1,9})(?: \\+0x\\w+)?");

    private GoTrace() {}

    static boolean begins(String line) {
        return GOROUTINE.matcher(line).matches();
    }

    /** Returns whether a line is a function of a goroutine, or ends the process. */
    static boolean isFunction(String line) {
        return line.startsWith("created by ")
                || line.startsWith("exit status ")
                || line.matches("[\\w./*()-]+\\(.*\\)");
    }

    /** Parses the first goroutine; null if the lines do not contain one. */
    static Failure parse(String[] lines) {
        Matcher head = HEAD.matcher(lines[0]);
        int at = 0;
        while (at < lines.length && !begins(lines[at])) {
            at++;
        }
        if (at == lines.length || at > 0 && !head.matches()) {
            return null;
        }
        List<Failure.Frame> frames = new ArrayList<>();
        for (at++; at + 1 < lines.length && !begins(lines[at]); at++) {
            Matcher function = FUNCTION.matcher(lines[at]);
            Matcher place = PLACE.matcher(lines[at + 1]);
            if (function.matches() && place.matches()) {
                String name = function.group(1) == null ? function.group(2) : function.group(1);
                int dot = name.lastIndexOf('.');
                frames.add(new Failure.Frame(
                        dot > 0 ? name.substring(0, dot) : name,
                        dot > 0 ? name.substring(dot + 1) : "",
                        place.group(1),
                        Integer.parseInt(place.group(2))));
                at++;
            }
        }
        boolean hasHead = head.reset().matches();
        return new Failure(
                hasHead ? head.group(1) : "panic", hasHead ? head.group(2) : null, frames, 0, 0, null, List.of());
    }
}
