package dev.graphema.lines.form;

import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Parses lines of the Common Log Format of web servers (NCSA), also with referer and user agent. */
final class AccessLine {
    private static final String QUOTED = "\"((?:[^\"\\\\]|\\\\.)*+)\"";
    private static final Pattern FORM = Pattern.compile(
            "(\\S+) (\\S+) (.{1,200}?) \\[([^\\]]{10,40})\\] " + QUOTED + " (\\d{3}|-) (\\d+|-)(?: " + QUOTED + " "
                    + QUOTED + ")?(.*)",
            Pattern.DOTALL);
    private static final Pattern REQUEST = Pattern.compile("([A-Z]{3,20}) (\\S+) (HTTP/\\S+)");

    private AccessLine() {}

    /** Passes on the values of a line. @return false if it has another form */
    static boolean read(String line, LineValues to) {
        if (line.indexOf("] \"") < 0) {
            return false;
        }
        Matcher form = FORM.matcher(line);
        if (!form.matches()) {
            return false;
        }
        to.take("time", form.group(4));
        put("client", form.group(1), to);
        put("identity", form.group(2), to);
        put("user", form.group(3), to);
        String request = unquoted(form.group(5));
        Matcher parts = REQUEST.matcher(request);
        if (parts.matches()) {
            to.take("method", parts.group(1));
            to.take("path", parts.group(2));
            to.take("protocol", parts.group(3));
        }
        put("status", form.group(6), to);
        put("bytes", form.group(7), to);
        if (form.group(8) != null) {
            put("referer", unquoted(form.group(8)), to);
            put("agent", unquoted(form.group(9)), to);
        }
        to.rest(form.group(10));
        to.take("message", request);
        return true;
    }

    private static void put(String name, String value, LineValues to) {
        if (!value.equals("-") && !value.isEmpty()) {
            to.take(name, KeyValueLine.meaning(value));
        }
    }

    private static String unquoted(String text) {
        return text.indexOf('\\') < 0 ? text : text.replace("\\\"", "\"").replace("\\\\", "\\");
    }
}
