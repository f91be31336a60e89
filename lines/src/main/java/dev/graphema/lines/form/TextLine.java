package dev.graphema.lines.form;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import dev.graphema.event.Draft;
import dev.graphema.event.Failure;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;

/**
 * Reads events from lines of text: by the user-defined pattern, as RFC 5424, or as {@code key=value} pairs.
 * Continuation lines, such as those of a stack trace, are added to their event. For one thread.
 */
public final class TextLine {
    private final LineShape shape;
    private final EventAssembler assembly;
    private final List<String> groups;
    private final SyslogLine syslog = new SyslogLine();

    public TextLine(LineShape shape) {
        this.shape = shape;
        this.assembly = new EventAssembler(shape);
        this.groups = shape.pattern() == null
                ? List.of()
                : new ArrayList<>(shape.pattern().namedGroups().keySet());
    }

    /** Reads the event that the line begins; the next line ends it. @throws UnreadableLineException if it is none */
    public Draft read(byte[] bytes, int from, int to) throws UnreadableLineException {
        String line = new String(bytes, from, to - from, StandardCharsets.UTF_8);
        Pattern pattern = shape.pattern();
        if (pattern != null) {
            Matcher matcher = pattern.matcher(line);
            if (matcher.find()) {
                return matched(matcher);
            }
            throw new UnreadableLineException("does not match the pattern");
        }
        assembly.begin();
        boolean isEvent = SyslogLine.isSyslog(line) ? syslog.read(line, assembly) : KeyValueLine.read(line, assembly);
        if (!isEvent) {
            throw new UnreadableLineException(
                    "expected a JSON object, key=value pairs or RFC 5424; for other lines, give a pattern");
        }
        return assembly.finish();
    }

    /** Returns whether the line continues the previous event. */
    public boolean isContinuation(byte[] bytes, int from, int to) {
        String line = new String(bytes, from, Math.min(to - from, 400), StandardCharsets.UTF_8);
        return shape.pattern() == null
                ? FailureLines.isContinuation(line)
                : !shape.pattern()
                        .matcher(new String(bytes, from, to - from, StandardCharsets.UTF_8))
                        .find();
    }

    /** Adds continuation lines: a failure, or more of the message. */
    public static void add(Draft draft, String more) {
        Failure failure = FailureLines.parse(more);
        if (failure != null && draft.failure() == null) {
            draft.failure(failure);
        } else {
            draft.message(draft.message() == null ? more : draft.message() + "\n" + more);
        }
    }

    private Draft matched(Matcher matcher) throws UnreadableLineException {
        assembly.begin();
        for (String group : groups) {
            String value = matcher.group(group);
            if (value != null) {
                assembly.take(group, KeyValueLine.meaning(value));
            }
        }
        return assembly.finish();
    }
}
