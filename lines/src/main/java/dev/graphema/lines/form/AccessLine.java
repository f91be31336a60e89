package dev.graphema.lines.form;

/** Parses lines of the Common Log Format of web servers (NCSA), also with referer and user agent. For one line. */
final class AccessLine {
    private static final int LONGEST_USER = 200;
    private static final int LONGEST_TIME = 40;

    private final String line;
    private int at;

    private AccessLine(String line) {
        this.line = line;
    }

    /**
     * Passes on the values of a line.
     *
     * @return false if it has another form
     */
    static boolean read(String line, LineValues to) {
        return line.indexOf("] \"") > 0 && new AccessLine(line).read(to);
    }

    private boolean read(LineValues to) {
        String client = word();
        String identity = word();
        int bracket = line.indexOf(" [", at);
        int end = bracket < 0 ? -1 : line.indexOf("] \"", bracket);
        if (client == null
                || identity == null
                || end < 0
                || bracket - at > LONGEST_USER
                || end - bracket > LONGEST_TIME) {
            return false;
        }
        String user = line.substring(at, bracket);
        String time = line.substring(bracket + 2, end);
        at = end + 2;
        String request = quoted();
        String status = request == null ? null : word();
        String bytes = status == null ? null : wordOrRest();
        if (bytes == null || !isNumber(status) || !isNumber(bytes)) {
            return false;
        }
        to.take("time", time);
        put("client", client, to);
        put("identity", identity, to);
        put("user", user, to);
        request(request, to);
        put("status", status, to);
        put("bytes", bytes, to);
        int beforeReferer = at;
        String referer = quoted();
        String agent = referer == null ? null : quoted();
        if (agent == null) {
            at = beforeReferer;
        } else {
            put("referer", referer, to);
            put("agent", agent, to);
        }
        to.rest(line.substring(Math.min(at, line.length())));
        to.take("message", request);
        return true;
    }

    /** {@code GET /sailings HTTP/1.1}. */
    private static void request(String request, LineValues to) {
        int path = request.indexOf(' ');
        int protocol = request.lastIndexOf(' ');
        boolean isRequest = path > 2 && protocol > path && request.startsWith("HTTP/", protocol + 1);
        if (isRequest) {
            to.take("method", request.substring(0, path));
            to.take("path", request.substring(path + 1, protocol));
            to.take("protocol", request.substring(protocol + 1));
        }
    }

    /** Moves over a word and the space behind it; null, without moving, if there is none. */
    private String word() {
        int space = line.indexOf(' ', at);
        if (space <= at) {
            return null;
        }
        String word = line.substring(at, space);
        at = space + 1;
        return word;
    }

    /** As above, also at the end of the line. */
    private String wordOrRest() {
        String word = word();
        if (word == null && at < line.length()) {
            word = line.substring(at);
            at = line.length();
        }
        return word;
    }

    /** Moves over a text in quotes and the space behind it; null, without moving, if there is none. */
    private String quoted() {
        if (at >= line.length() || line.charAt(at) != '"') {
            return null;
        }
        StringBuilder text = new StringBuilder();
        for (int i = at + 1; i < line.length(); i++) {
            char c = line.charAt(i);
            if (c == '"') {
                at = i + 1 < line.length() && line.charAt(i + 1) == ' ' ? i + 2 : i + 1;
                return text.toString();
            }
            boolean escapes = c == '\\' && i + 1 < line.length() && "\"\\".indexOf(line.charAt(i + 1)) >= 0;
            text.append(escapes ? line.charAt(++i) : c);
        }
        return null;
    }

    private static boolean isNumber(String text) {
        return text.equals("-")
                || !text.isEmpty() && text.length() < 19 && text.chars().allMatch(c -> c >= '0' && c <= '9');
    }

    private static void put(String name, String value, LineValues to) {
        if (!value.equals("-") && !value.isEmpty()) {
            to.take(name, KeyValueLine.meaning(value));
        }
    }
}
