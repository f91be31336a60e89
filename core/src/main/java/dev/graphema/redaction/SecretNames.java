package dev.graphema.redaction;

import java.util.List;

/**
 * The names by which programs call secrets: {@code password}, {@code api_key}, {@code Set-Cookie} and the like. The same
 * list decides about fields and about what a text calls by name. Case does not count, nor do dashes and underscores.
 */
final class SecretNames {
    /** How many characters of a name are examined at the most. */
    static final int LONGEST = 64;

    /** A name that ends with one of these is a secret, whatever comes before: {@code PGPASSWORD}, {@code dbPassword}. */
    private static final List<String> ENDINGS =
            List.of("password", "passwd", "passphrase", "secret", "apikey", "accesskey", "secretkey", "privatekey");

    /** A name is a secret when its last word, or words, are one of these: {@code auth-token}, {@code accessToken}. */
    private static final List<String> WORDS =
            List.of("pwd", "token", "sessionid", "authorization", "cookie", "credentials");

    /** Of {@link #WORDS}, those that are followed by a whole line in a text: the names of HTTP headers. */
    private static final List<String> HEADERS = List.of("authorization", "cookie");

    private SecretNames() {}

    /** Whether the part of a text between two places is such a name. */
    static boolean isSecret(CharSequence text, int from, int to) {
        return matches(ENDINGS, text, from, to, false) || matches(WORDS, text, from, to, true);
    }

    static boolean isSecret(String name) {
        return isSecret(name, Math.max(0, name.length() - LONGEST), name.length());
    }

    /** Whether it is the name of a header whose value is a secret up to the end of the line. */
    static boolean isHeader(CharSequence text, int from, int to) {
        return matches(HEADERS, text, from, to, true);
    }

    private static boolean matches(List<String> names, CharSequence text, int from, int to, boolean wholeWords) {
        for (String name : names) {
            int at = beginOf(name, text, from, to);
            if (at >= 0 && (!wholeWords || isWordBegin(text, from, at))) {
                return true;
            }
        }
        return false;
    }

    /** Where a name begins with which the text ends, read backwards without dashes and underscores; -1 when it does not. */
    private static int beginOf(String name, CharSequence text, int from, int to) {
        int at = to;
        for (int i = name.length() - 1; i >= 0; i--) {
            do {
                at--;
            } while (at >= from && isJoint(text.charAt(at)));
            if (at < from || Character.toLowerCase(text.charAt(at)) != name.charAt(i)) {
                return -1;
            }
        }
        return at;
    }

    /** Whether no word goes on to the left: there is nothing, no letter or digit, or a small letter before a capital. */
    private static boolean isWordBegin(CharSequence text, int from, int at) {
        if (at == from) {
            return true;
        }
        char before = text.charAt(at - 1);
        return !Character.isLetterOrDigit(before)
                || Character.isUpperCase(text.charAt(at)) && !Character.isUpperCase(before);
    }

    private static boolean isJoint(char c) {
        return c == '_' || c == '-' || c == ' ';
    }
}
