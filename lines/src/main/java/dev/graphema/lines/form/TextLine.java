package dev.graphema.lines.form;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.lines.shape.Levels;
import dev.graphema.lines.shape.LineForm;
import dev.graphema.lines.shape.LinePlace;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.lines.stack.OpenTrace;
import dev.graphema.lines.stack.StackTraces;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;

/**
 * Reads events from lines of text: by the user-defined pattern, as syslog or access logs, as {@code key=value} pairs, or
 * as text that begins with a time and perhaps a level. Continuation lines, such as those of a stack trace, are added to
 * their event. Any other line is an event without a time. For one thread.
 */
public final class TextLine {
    private final LineShape shape;
    private final EventAssembler assembly;
    private final List<String> groups;
    private final SyslogLine syslog = new SyslogLine();
    private final TextHead head;
    private final OpenTrace trace = new OpenTrace();
    private LineForm form;
    private boolean isTimed;
    private boolean isRecognised;

    public TextLine(LineShape shape) {
        this(shape, null, null);
    }

    /** @param place the place of each line; null if no question asks for it */
    public TextLine(LineShape shape, LinePlace place) {
        this(shape, null, place);
    }

    /**
     * @param observer receives all values, too; null for none
     * @param place as above
     */
    TextLine(LineShape shape, LineValues observer, LinePlace place) {
        this.shape = shape;
        this.assembly = new EventAssembler(shape, observer, place);
        this.head = new TextHead(shape.times(), shape.inferred());
        this.groups = shape.pattern() == null
                ? List.of()
                : new ArrayList<>(shape.pattern().namedGroups().keySet());
    }

    /**
     * Reads the event that the line begins; the next line ends it.
     *
     * @param place the time that determines the position of an event without a time, in nanoseconds since 1970
     */
    public Draft read(byte[] bytes, int from, int to, long place) {
        String line = new String(bytes, from, to - from, StandardCharsets.UTF_8);
        assembly.begin(false);
        isTimed = false;
        isRecognised = true;
        if (line.indexOf('\uFFFD') >= 0) {
            assembly.damaged(LineDamage.NOT_UTF8);
        }
        form = matches(line) ? LineForm.PATTERN : standard(line);
        if (form == null) {
            text(line);
            form = isTimed ? LineForm.TIMED_TEXT : LineForm.TEXT;
        }
        trace.begin(isTimed ? head.message() : line);
        return assembly.finish(place);
    }

    /** Returns what is wrong with the last line; null for nothing. */
    public LineDamage damage() {
        return assembly.damage();
    }

    /** Returns whether the last line has a time, a level or pairs of names and values, and is not only text. */
    public boolean isRecognised() {
        return isRecognised;
    }

    /** Returns the form of the last line. */
    LineForm form() {
        return form;
    }

    /** Returns whether, in the last line, a word of the level follows the time. */
    boolean hasLevelBehindTime() {
        return isTimed && head.hasLevelBehindTime();
    }

    /** Returns whether a line matches the user-defined pattern. */
    public boolean matchesPattern(byte[] bytes, int from, int to) {
        return shape.pattern() != null
                && shape.pattern()
                        .matcher(new String(bytes, from, to - from, StandardCharsets.UTF_8))
                        .find();
    }

    /** Returns whether the line continues the previous event. */
    public boolean isContinuation(byte[] bytes, int from, int to) {
        if (shape.pattern() != null) {
            return !matchesPattern(bytes, from, to);
        }
        String line = new String(bytes, from, Math.min(to - from, 400), StandardCharsets.UTF_8);
        return trace.isContinued(line)
                || shape.inferred().isTimed() && isTimed && !line.startsWith("<") && !head.read(line);
    }

    /** Completes an event with its continuation lines, which may be empty. */
    public Event complete(Draft draft, String more) {
        if (!more.isEmpty()) {
            add(draft, more);
        }
        assembly.parts(draft);
        return draft.finish();
    }

    /** Adds continuation lines: more of the message, perhaps after its level, and a failure. */
    private static void add(Draft draft, String more) {
        int trace = draft.failure() == null ? StackTraces.find(more) : -1;
        if (trace < 0) {
            message(draft, more);
            return;
        }
        int end = StackTraces.end(more, trace);
        draft.failure(StackTraces.parse(more.substring(trace, end)));
        String text = (more.substring(0, trace) + more.substring(end)).strip();
        if (!text.isEmpty()) {
            message(draft, text);
        }
    }

    private static void message(Draft draft, String text) {
        int colon = text.indexOf(": ");
        boolean hasLevel = draft.level() == null && colon > 0 && colon < 12 && Levels.isWord(text.substring(0, colon));
        if (hasLevel) {
            draft.level(Levels.of("level", text.substring(0, colon)));
        }
        String whole = draft.message() == null ? text : draft.message() + "\n" + text;
        Failure failure = draft.failure() == null ? StackTraces.parse(whole) : null;
        if (failure != null && !failure.frames().isEmpty()) {
            draft.failure(failure); // the message was its first line
        } else {
            draft.message(whole);
        }
    }

    private boolean matches(String line) {
        Pattern pattern = shape.pattern();
        if (pattern == null) {
            return false;
        }
        Matcher matcher = pattern.matcher(line);
        if (!matcher.find()) {
            return false;
        }
        for (String group : groups) {
            String value = matcher.group(group);
            if (value != null) {
                assembly.take(group, KeyValueLine.meaning(value));
            }
        }
        return true;
    }

    /**
     * Passes on the values of a line in a form that others define.
     *
     * @return the form; null if it has none of them
     */
    private LineForm standard(String line) {
        if (SyslogLine.isSyslog(line) && syslog.read(line, assembly)) {
            return LineForm.SYSLOG;
        }
        if (KeyValueLine.beginsWithPair(line) && KeyValueLine.read(line, assembly)) {
            return LineForm.PAIRS;
        }
        return AccessLine.read(line, assembly) ? LineForm.ACCESS : null;
    }

    private void text(String line) {
        int behindPriority = SyslogLine.priority(line, assembly);
        String body = line.substring(behindPriority);
        boolean hasTime = head.read(body);
        isTimed = hasTime && head.beginsWithTime();
        if (head.level() != null) {
            assembly.take("level", head.level());
        }
        int message = -1;
        if (hasTime) {
            assembly.take("time", head.time());
            message = isTimed ? head.hostAndProgram(assembly, behindPriority > 0 || head.isYearAssumed()) : -1;
        }
        boolean hasPairs = KeyValueLine.pairs(body, head.behindTime(), assembly);
        isRecognised = hasTime || hasPairs || head.level() != null || behindPriority > 0;
        assembly.take("message", message >= 0 ? body.substring(message) : head.message());
    }
}
