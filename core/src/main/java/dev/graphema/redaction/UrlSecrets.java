package dev.graphema.redaction;

/**
 * Of addresses with {@code ://}: name and password before the host ({@code https://ada:pw@…}), and everything behind the
 * question mark. Address, host and path stay.
 */
final class UrlSecrets implements Detector {
    private static final String SCHEME_END = "://";
    private static final int SHORTEST = "a://b?c".length();

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
        int open = text.lastIndexOf(SCHEME_END, from);
        for (int at = open >= 0 ? open : text.indexOf(SCHEME_END, from);
                at >= 0;
                at = text.indexOf(SCHEME_END, at + 1)) {
            int host = at + SCHEME_END.length();
            int end = end(text, host);
            int slash = first(text, host, end, '/', '?');
            int user = text.lastIndexOf('@', slash - 1);
            if (user > host && host >= from) {
                return Detector.range(host, user);
            }
            int question = text.indexOf('?', host);
            boolean hasQuery = question >= 0 && question + 1 < end && question + 1 >= from;
            if (hasQuery) {
                return Detector.range(question + 1, end);
            }
        }
        return NOTHING;
    }

    private static int end(String text, int from) {
        int end = from;
        // A treated part, which may hold a blank, is stepped over as a whole.
        while (end < text.length() && " \t\n\r\"'<>`|\\^{}".indexOf(text.charAt(end)) < 0) {
            int close = text.charAt(end) == '[' ? text.indexOf(']', end) : -1;
            end = close < 0 ? end + 1 : close + 1;
        }
        while (end > from && ",.;)".indexOf(text.charAt(end - 1)) >= 0) {
            end--; // the sentence's own
        }
        return end;
    }

    private static int first(String text, int from, int to, char one, char other) {
        int i = from;
        while (i < to && text.charAt(i) != one && text.charAt(i) != other) {
            i++;
        }
        return i;
    }
}
