package dev.graphema.lines.form;

import dev.graphema.lines.shape.Levels;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Parses lines of RFC 5424 and of its predecessor as it is used (RFC 3164). Structured data become groups by the ids of
 * their elements, without the enterprise number, which is in the group as {@code enterprise}; the facility is the field
 * {@code facility} by its number, and the severity as it was written the field {@code severity}.
 */
final class SyslogLine {
    private static final Pattern HEAD = Pattern.compile("<(\\d{1,3})>1 (\\S+) (\\S+) (\\S+) (\\S+) (\\S+)(?: |$)");
    private static final Pattern OLD_HEAD = Pattern.compile("<(\\d{1,3})>");
    private static final String NIL = "-";
    private static final int MOST_PRIORITY = 191;

    /** The elements whose parameters are attributes or fields of the event. */
    private static final List<String> OWN = List.of("trace", "fields");

    private String line;
    private int at;

    /** Returns whether a line begins with a priority and the version of RFC 5424. */
    static boolean isSyslog(String line) {
        return line.startsWith("<") && HEAD.matcher(line).lookingAt();
    }

    /** Returns the length of a priority that a line begins with; 0 for none. */
    static int priority(String line, LineValues to) {
        Matcher head = OLD_HEAD.matcher(line);
        if (!line.startsWith("<") || !head.lookingAt() || Integer.parseInt(head.group(1)) > MOST_PRIORITY) {
            return 0;
        }
        priority(Integer.parseInt(head.group(1)), to);
        return head.end();
    }

    private static void priority(int priority, LineValues to) {
        to.take("level", Levels.ofSyslog(priority & 7).text());
        to.take("facility", (long) (priority >> 3));
        to.take("severity", (long) (priority & 7));
    }

    /**
     * Passes on the values of the line.
     *
     * @return false if it has another form
     */
    boolean read(String text, LineValues to) {
        Matcher head = HEAD.matcher(text);
        if (!head.lookingAt() || Integer.parseInt(head.group(1)) > MOST_PRIORITY) {
            return false;
        }
        line = text;
        at = head.end();
        priority(Integer.parseInt(head.group(1)), to);
        put("time", head.group(2), to);
        put("instance", head.group(3), to);
        put("service", head.group(4), to);
        put("process", head.group(5), to);
        put("event.kind", head.group(6), to);
        structuredData(to);
        String message = line.substring(Math.min(at, line.length())).strip();
        put("message", message.startsWith("\uFEFF") ? message.substring(1) : message, to);
        return true;
    }

    private static void put(String name, String value, LineValues to) {
        if (!value.equals(NIL) && !value.isEmpty()) {
            to.take(name, value);
        }
    }

    private void structuredData(LineValues to) {
        if (line.startsWith(NIL, at)) {
            at++;
            return;
        }
        while (at < line.length() && line.charAt(at) == '[') {
            element(to);
        }
    }

    private void element(LineValues to) {
        int end = at + 1;
        while (end < line.length() && line.charAt(end) != ' ' && line.charAt(end) != ']') {
            end++;
        }
        String id = line.substring(at + 1, end);
        int number = id.indexOf('@');
        String name = number < 0 ? id : id.substring(0, number);
        at = end;
        Map<String, Object> parameters = new LinkedHashMap<>();
        while (at < line.length() && line.charAt(at) == ' ') {
            parameter(parameters, to);
        }
        if (at < line.length() && line.charAt(at) == ']') {
            at++;
        } else {
            to.damaged(LineDamage.STRUCTURED_DATA);
        }
        if (OWN.contains(name)) {
            parameters.forEach(to::take);
            return;
        }
        if (parameters.size() == 1 && parameters.containsKey(name)) {
            to.take(name, parameters.get(name)); // an element for one value
            return;
        }
        if (number >= 0) {
            parameters.putIfAbsent("enterprise", id.substring(number + 1));
        }
        to.take(name, parameters);
    }

    /** Reads a parameter in quotes, or, which is damage, without. */
    private void parameter(Map<String, Object> to, LineValues damages) {
        int begin = at + 1;
        int equals = begin;
        while (equals < line.length() && "=] ".indexOf(line.charAt(equals)) < 0) {
            equals++;
        }
        String name = line.substring(begin, Math.min(equals, line.length()));
        if (equals >= line.length() || line.charAt(equals) != '=') {
            at = equals;
            if (!name.isEmpty()) {
                damages.damaged(LineDamage.STRUCTURED_DATA);
                add(to, name, null);
            }
            return;
        }
        boolean isQuoted = equals + 1 < line.length() && line.charAt(equals + 1) == '"';
        StringBuilder value = new StringBuilder();
        at = equals + (isQuoted ? 2 : 1);
        while (at < line.length() && (isQuoted ? "\"" : "] ").indexOf(line.charAt(at)) < 0) {
            boolean escapes =
                    line.charAt(at) == '\\' && at + 1 < line.length() && "\"\\]".indexOf(line.charAt(at + 1)) >= 0;
            value.append(line.charAt(escapes ? ++at : at));
            at++;
        }
        if (isQuoted && at < line.length()) {
            at++;
        } else {
            damages.damaged(LineDamage.STRUCTURED_DATA);
        }
        add(to, name, KeyValueLine.meaning(value.toString()));
    }

    /** RFC 5424 allows a parameter several times: the values are a list, and nothing is damaged. */
    private static void add(Map<String, Object> to, String name, Object value) {
        if (to.containsKey(name)) {
            to.put(name, EventAssembler.both(to.get(name), value));
        } else {
            to.put(name, value);
        }
    }
}
