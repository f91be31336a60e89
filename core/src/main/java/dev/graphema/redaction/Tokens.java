package dev.graphema.redaction;

import java.nio.charset.StandardCharsets;
import java.util.Base64;

/**
 * Access tokens: JSON web tokens (RFC 7519, in the compact form that begins with {@code eyJ}), and credentials after
 * {@code Bearer} (RFC 6750) or {@code Basic} (RFC 7617), ignoring case; the word is kept. A bearer token has 8 or more
 * characters and a digit, or 20 or more characters; basic credentials decode to a name and a password with a colon in
 * between.
 */
final class Tokens implements Detector {
    private static final String JWT = "eyJ";
    private static final String BEARER = "bearer ";
    private static final String BASIC = "basic ";
    private static final int SHORTEST = "Basic Og==".length();
    private static final int FEWEST = 8;
    private static final int LONG = 20;

    @Override
    public String name() {
        return "token";
    }

    @Override
    public int shortest() {
        return SHORTEST;
    }

    @Override
    public Trigger trigger() {
        return Trigger.pair("y", "J").or(Trigger.pair("bB", "eEaA"));
    }

    @Override
    public long find(String text, int from) {
        int looked = from; // up to there, no web token can begin
        for (int i = from; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c == 'J' && i - 2 >= looked && text.startsWith(JWT, i - 2)) {
                int begin = i - 2;
                int end = webTokenEnd(text, begin);
                if (end > begin) {
                    return Detector.range(begin, end);
                }
                // Another text that begins within these characters has no more parts than this one.
                looked = -end;
            } else if (c == 'B' || c == 'b') {
                long range = behindWord(text, i);
                if (range != NOTHING) {
                    return range;
                }
            }
        }
        return NOTHING;
    }

    /** Returns the end of a token that begins here; if there is none, the end of the examined text, negated. */
    private static int webTokenEnd(String text, int from) {
        int parts = 1;
        int partStart = from;
        int end = -1;
        int i = from;
        for (; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c == '.') {
                parts++;
                partStart = i + 1;
            } else if (!isUrlBase64(c)) {
                break;
            }
            if (parts >= 3 || parts == 2 && i > partStart + FEWEST) {
                end = i + 1;
            }
        }
        return end < 0 ? -i : end;
    }

    /** Returns whether a word such as {@code Bearer} with credentials is here, as this detector finds them. */
    static boolean isCredential(String text, int from) {
        return behindWord(text, from) != NOTHING;
    }

    private static long behindWord(String text, int from) {
        boolean bearer = text.regionMatches(true, from, BEARER, 0, BEARER.length());
        boolean basic = !bearer && text.regionMatches(true, from, BASIC, 0, BASIC.length());
        if (!bearer && !basic || from > 0 && Character.isLetterOrDigit(text.charAt(from - 1))) {
            return NOTHING;
        }
        int start = from + (bearer ? BEARER.length() : BASIC.length());
        while (start < text.length() && text.charAt(start) == ' ') {
            start++;
        }
        int end = start;
        while (end < text.length() && isTokenCharacter(text.charAt(end))) {
            end++;
        }
        String credential = text.substring(start, end);
        boolean secret = bearer ? looksLikeToken(credential) : isNameAndPassword(credential);
        return secret ? Detector.range(start, end) : NOTHING;
    }

    /** An equals sign is padding at the end of a token; within a text, it separates a name from a value. */
    private static boolean looksLikeToken(String credential) {
        int equals = credential.indexOf('=');
        boolean isPair =
                equals >= 0 && !credential.substring(equals).replace("=", "").isEmpty();
        return !isPair && isLongEnough(credential);
    }

    private static boolean isLongEnough(String credential) {
        return credential.length() >= LONG
                || credential.length() >= FEWEST && credential.chars().anyMatch(Character::isDigit);
    }

    private static boolean isNameAndPassword(String credential) {
        try {
            byte[] decoded = Base64.getDecoder().decode(credential);
            return new String(decoded, StandardCharsets.ISO_8859_1).indexOf(':') >= 0;
        } catch (IllegalArgumentException e) {
            return false; // an ordinary word
        }
    }

    private static boolean isUrlBase64(char c) {
        return c >= 'A' && c <= 'Z' || c >= 'a' && c <= 'z' || c >= '0' && c <= '9' || c == '_' || c == '-';
    }

    /** The characters of token68 in RFC 9110. */
    private static boolean isTokenCharacter(char c) {
        return isUrlBase64(c) || c == '.' || c == '~' || c == '+' || c == '/' || c == '=';
    }
}
