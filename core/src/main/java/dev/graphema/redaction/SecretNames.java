package dev.graphema.redaction;

import java.util.List;

/**
 * Names of secrets: {@code password}, {@code api_key}, {@code Set-Cookie} and similar ones. The same names apply to
 * fields and to names in texts. Case, dashes and underscores are ignored.
 */
final class SecretNames {
    /** The most characters of a name that are examined. */
    static final int LONGEST = 64;

    /** A name that ends with one of these is a secret: {@code PGPASSWORD}, {@code dbPassword}. */
    private static final List<String> ENDINGS =
            List.of("password", "passwd", "passphrase", "secret", "apikey", "accesskey", "secretkey", "privatekey");

    /** A name whose last word, or words, are one of these is a secret: {@code auth-token}, {@code accessToken}. */
    private static final List<String> WORDS =
            List.of("pwd", "token", "sessionid", "authorization", "cookie", "credentials");

    /** The names of {@link #WORDS} whose value is the rest of the line: names of HTTP headers. */
    private static final List<String> HEADERS = List.of("authorization", "cookie");

    private SecretNames() {}

    /** Returns whether this part of the text is the name of a secret. */
    static boolean isSecret(CharSequence text, int from, int to) {
        return matches(ENDINGS, text, from, to, false) || matches(WORDS, text, from, to, true);
    }

    static boolean isSecret(String name) {
        return isSecret(name, Math.max(0, name.length() - LONGEST), name.length());
    }

    /** Returns whether it is the name of a header whose value is the rest of the line. */
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

    /** Returns the begin of a name at the end of the text, ignoring dashes and underscores; -1 if there is none. */
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

    /**
     * Returns whether a word begins here: there is nothing before, or neither a letter nor a digit, or a lower-case
     * letter before an upper-case one.
     */
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
