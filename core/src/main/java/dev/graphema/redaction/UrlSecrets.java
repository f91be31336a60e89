package dev.graphema.redaction;

/**
 * Parts of addresses with {@code ://}: the name and password before the host ({@code https://ada:pw@…}), and everything
 * after the question mark. Address, host and path are kept. An address within the path of another one counts as a
 * separate address, so that each character is examined only a few times.
 */
final class UrlSecrets implements Detector {
    private static final String SCHEME_END = "://";
    private static final int SHORTEST = "a://b?c".length();
    private static final String ENDS = " \t\n\r\"'<>`|\\^{}";

    /** The longest result of a treatment, which may contain a space and is skipped as a whole. */
    private static final int LONGEST_TREATED = 220;

    @Override
    public String name() {
        return "url";
    }

    @Override
    public int shortest() {
        return SHORTEST;
    }

    @Override
    public Trigger trigger() {
        return Trigger.anyOf("?@");
    }

    @Override
    public long find(String text, int from) {
        // The address in which the search goes on may have begun before.
        int open = from == 0 ? -1 : text.lastIndexOf(SCHEME_END, from);
        int at = open >= 0 ? open : text.indexOf(SCHEME_END, from);
        while (at >= 0) {
            int host = at + SCHEME_END.length();
            int hostEnd = hostEnd(text, host);
            int user = text.lastIndexOf('@', hostEnd - 1);
            if (user > host && host >= from) {
                return Detector.range(host, user);
            }
            int next = text.indexOf(SCHEME_END, hostEnd);
            int question = question(text, hostEnd, next < 0 ? text.length() : next);
            if (question >= 0 && question + 1 >= from) {
                int end = end(text, question + 1);
                if (end > question + 1) {
                    return Detector.range(question + 1, end);
                }
            }
            at = next;
        }
        return NOTHING;
    }

    /** Returns the end of the part with user and host: at the path, the query, or the end of the address. */
    private static int hostEnd(String text, int host) {
        int end = host;
        while (end < text.length() && "/?".indexOf(text.charAt(end)) < 0 && ENDS.indexOf(text.charAt(end)) < 0) {
            end = step(text, end);
        }
        return Math.min(end, text.length());
    }

    /**
     * Returns the question mark of the address whose path begins here, before the next address; -1 if there is none.
     */
    private static int question(String text, int from, int before) {
        for (int i = from; i < before; i = step(text, i)) {
            char c = text.charAt(i);
            if (c == '?') {
                return i;
            }
            if (ENDS.indexOf(c) >= 0) {
                return -1;
            }
        }
        return -1;
    }

    private static int end(String text, int from) {
        int end = from;
        while (end < text.length() && ENDS.indexOf(text.charAt(end)) < 0) {
            end = step(text, end);
        }
        end = Math.min(end, text.length());
        while (end > from && ",.;)".indexOf(text.charAt(end - 1)) >= 0) {
            end--; // the sentence's own
        }
        return end;
    }

    /** Returns the next character, or the position after the result of a treatment. */
    private static int step(String text, int at) {
        if (text.charAt(at) == '[') {
            int most = Math.min(text.length(), at + LONGEST_TREATED);
            for (int i = at + 1; i < most && text.charAt(i) != '['; i++) {
                if (text.charAt(i) == ']') {
                    return i + 1;
                }
            }
        }
        return at + 1;
    }
}
