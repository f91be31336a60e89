package dev.graphema.lines.form;

import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Parses lines of RFC 5424. Structured data become fields, in groups by the names of elements without their enterprise
 * numbers.
 */
final class SyslogLine {
    private static final Pattern HEAD = Pattern.compile("<(\\d{1,3})>1 (\\S+) (\\S+) (\\S+) (\\S+) (\\S+) ");
    private static final String NIL = "-";
    private static final int MOST_PRIORITY = 191;

    private String line;
    private int at;

    static boolean isSyslog(String line) {
        return line.startsWith("<") && HEAD.matcher(line).lookingAt();
    }

    /** Passes on the values of the line. @return false if it has another form */
    boolean read(String text, EventAssembler to) {
        Matcher head = HEAD.matcher(text);
        if (!head.lookingAt() || Integer.parseInt(head.group(1)) > MOST_PRIORITY) {
            return false;
        }
        line = text;
        at = head.end();
        to.take("time", head.group(2));
        to.take("level", Levels.ofSyslog(Integer.parseInt(head.group(1)) & 7).text());
        put("instance", head.group(3), to);
        put("service", head.group(4), to);
        put("process", head.group(5), to);
        put("event.kind", head.group(6), to);
        structuredData(to);
        String message = line.substring(Math.min(at, line.length())).strip();
        put("message", message.startsWith("\uFEFF") ? message.substring(1) : message, to);
        return true;
    }

    private static void put(String name, String value, EventAssembler to) {
        if (!value.equals(NIL) && !value.isEmpty()) {
            to.take(name, value);
        }
    }

    private void structuredData(EventAssembler to) {
        if (line.startsWith(NIL, at)) {
            at++;
            return;
        }
        while (at < line.length() && line.charAt(at) == '[') {
            int end = at + 1;
            while (end < line.length() && line.charAt(end) != ' ' && line.charAt(end) != ']') {
                end++;
            }
            String element = line.substring(at + 1, end);
            int number = element.indexOf('@');
            at = end;
            while (at < line.length() && line.charAt(at) == ' ') {
                parameter(number < 0 ? element : element.substring(0, number), to);
            }
            at++;
        }
    }

    private void parameter(String element, EventAssembler to) {
        int equals = line.indexOf("=\"", at);
        if (equals < 0) {
            at = line.length();
            return;
        }
        String name = line.substring(at + 1, equals);
        StringBuilder value = new StringBuilder();
        for (at = equals + 2; at < line.length() && line.charAt(at) != '"'; at++) {
            boolean escapes =
                    line.charAt(at) == '\\' && at + 1 < line.length() && "\"\\]".indexOf(line.charAt(at + 1)) >= 0;
            value.append(line.charAt(escapes ? ++at : at));
        }
        at++;
        // The ids of the trace have their own element.
        boolean isOwn = element.equals(name) || element.equals("trace") || element.equals("fields");
        to.take(isOwn ? name : element + "." + name, KeyValueLine.meaning(value.toString()));
    }
}
