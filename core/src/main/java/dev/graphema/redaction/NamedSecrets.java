package dev.graphema.redaction;

import java.util.List;

/**
 * What a text itself calls a secret: the value behind {@code password=}, {@code "secret": "…"}, {@code api_key: …} and the like, in any case
 * and with dashes or underscores. The name stays. A value ends with its quote, or else with a blank, a comma, a semicolon, an
 * ampersand or a bracket.
 */
final class NamedSecrets implements Detector {
    private static final List<String> NAMES = List.of(
            "password",
            "passwd",
            "passphrase",
            "pwd",
            "secret",
            "client_secret",
            "api_key",
            "apikey",
            "access_key",
            "secret_key",
            "private_key",
            "access_token",
            "refresh_token",
            "auth_token",
            "session_token",
            "session_id",
            "token");
    private static final int SHORTEST = "pwd=x".length();
    private static final int LONGEST_NAME = 13;

    @Override
    public String name() {
        return "secret";
    }

    @Override
    public int shortest() {
        return SHORTEST;
    }

    @Override
    public Trigger trigger() {
        return Trigger.anyOf("=:");
    }

    @Override
    public long find(String text, int from) {
        for (int i = from; i < text.length(); i++) {
            char c = text.charAt(i);
            if ((c == '=' || c == ':') && isNamed(text, from, i)) {
                int start = valueStart(text, i + 1);
                int end = valueEnd(text, start);
                if (end > start) {
                    return Detector.range(start, end);
                }
            }
        }
        return NOTHING;
    }

    /** Whether one of the names stands before the sign, with nothing but blanks and a quote between. */
    private static boolean isNamed(String text, int from, int sign) {
        int end = sign;
        while (end > from
                && (text.charAt(end - 1) == ' ' || text.charAt(end - 1) == '"' || text.charAt(end - 1) == '\'')) {
            end--;
        }
        int start = end;
        while (start > from && end - start <= LONGEST_NAME && isName(text.charAt(start - 1))) {
            start--;
        }
        int length = end - start;
        for (String name : NAMES) {
            if (name.length() <= length && isSame(text, end - name.length(), name)) {
                boolean isWhole =
                        name.length() == length || !Character.isLetterOrDigit(text.charAt(end - name.length() - 1));
                if (isWhole) {
                    return true;
                }
            }
        }
        return false;
    }

    private static boolean isSame(String text, int at, String name) {
        for (int i = 0; i < name.length(); i++) {
            char c = Character.toLowerCase(text.charAt(at + i));
            if ((c == '-' ? '_' : c) != name.charAt(i)) {
                return false;
            }
        }
        return true;
    }

    private static int valueStart(String text, int from) {
        int start = from;
        while (start < text.length() && text.charAt(start) == ' ') {
            start++;
        }
        boolean quoted = start < text.length() && (text.charAt(start) == '"' || text.charAt(start) == '\'');
        return quoted ? start + 1 : start;
    }

    /** A value in square brackets, as a treatment leaves it, ends with them. */
    private static int valueEnd(String text, int start) {
        if (start < text.length() && text.charAt(start) == '[') {
            int close = text.indexOf(']', start);
            return close < 0 ? text.length() : close + 1;
        }
        char quote = start > 0 ? text.charAt(start - 1) : ' ';
        boolean quoted = quote == '"' || quote == '\'';
        int end = start;
        while (end < text.length()
                && (quoted ? text.charAt(end) != quote : " ,;&)]}\"'\n\t".indexOf(text.charAt(end)) < 0)) {
            end++;
        }
        return end;
    }

    private static boolean isName(char c) {
        return Character.isLetterOrDigit(c) || c == '_' || c == '-';
    }
}
