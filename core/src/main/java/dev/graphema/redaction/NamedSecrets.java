package dev.graphema.redaction;

/**
 * Values that follow the name of a secret: {@code password=}, {@code "secret": "…"}, {@code api_key: …}, {@code
 * <password>…</password>}, {@code Cookie: …} and similar ones, also in escaped JSON, and percent-encoded. The name is
 * kept; {@link SecretNames} contains the names.
 *
 * <p>A quoted value ends with its quote. Other values end with a space or a bracket, and with a comma, a semicolon or
 * an ampersand that is followed by another name or nothing: {@code password=a,b} is one value. The value of a header
 * ends with the line; in {@code Authorization: Token …}, the scheme is kept.
 */
final class NamedSecrets implements Detector {
    private static final int SHORTEST = "pwd=x".length();
    private static final String ENDS = " )]}\"'<>\n\r\t";

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
        return Trigger.anyOf("=:>").or(Trigger.pair("%", "3"));
    }

    @Override
    public long find(String text, int from) {
        for (int i = from; i < text.length(); i++) {
            int sign = signLength(text, i);
            long range = sign > 0 ? behind(text, from, i, i + sign) : NOTHING;
            if (range != NOTHING) {
                return range;
            }
        }
        return NOTHING;
    }

    /** Returns the length of a separator between a name and its value; 0 if there is none. */
    private static int signLength(String text, int at) {
        return switch (text.charAt(at)) {
            case '=', ':', '>' -> 1;
            case '%' -> isEncoded(text, at, '3', 'D') || isEncoded(text, at, '3', 'A') ? 3 : 0;
            default -> 0;
        };
    }

    private static boolean isEncoded(String text, int at, char high, char low) {
        return at + 2 < text.length()
                && text.charAt(at) == '%'
                && text.charAt(at + 1) == high
                && Character.toUpperCase(text.charAt(at + 2)) == low;
    }

    private static long behind(String text, int from, int sign, int behindSign) {
        int nameEnd = nameEnd(text, from, sign);
        int nameStart = nameEnd;
        while (nameStart > from && nameEnd - nameStart < SecretNames.LONGEST && isName(text.charAt(nameStart - 1))) {
            nameStart--;
        }
        if (nameStart == nameEnd || !SecretNames.isSecret(text, nameStart, nameEnd)) {
            return NOTHING;
        }
        if (text.charAt(sign) == '>') {
            return isElement(text, nameStart) ? range(behindSign, until(text, behindSign, "<")) : NOTHING;
        }
        int start = valueStart(text, behindSign);
        if (start > 0 && isQuote(text.charAt(start - 1)) && start > behindSign) {
            return range(start, quotedEnd(text, start));
        }
        return SecretNames.isHeader(text, nameStart, nameEnd)
                ? headerValue(text, start)
                : range(start, valueEnd(text, start));
    }

    /** Returns whether a name directly follows the start of an element, perhaps with a namespace prefix. */
    private static boolean isElement(String text, int nameStart) {
        int at = nameStart;
        if (at > 0 && text.charAt(at - 1) == ':') {
            at--;
            while (at > 0 && nameStart - at < SecretNames.LONGEST && isName(text.charAt(at - 1))) {
                at--;
            }
        }
        return at > 0 && text.charAt(at - 1) == '<';
    }

    private static long range(int start, int end) {
        return end > start ? Detector.range(start, end) : NOTHING;
    }

    /** Returns the end of a name before the separator, with only spaces, quotes and escaped quotes in between. */
    private static int nameEnd(String text, int from, int sign) {
        int end = sign;
        while (end > from) {
            char c = text.charAt(end - 1);
            if (c == ' ' || c == '"' || c == '\'' || c == '\\') {
                end--;
            } else if (end - 3 >= from && isEncoded(text, end - 3, '2', '2')) {
                end -= 3;
            } else {
                break;
            }
        }
        return end;
    }

    /** Returns the position after the separator, spaces and an opening quote, which may be escaped or encoded. */
    private static int valueStart(String text, int from) {
        int start = from;
        while (start < text.length() && text.charAt(start) == ' ') {
            start++;
        }
        if (isEncoded(text, start, '2', '2')) {
            return start + 3;
        }
        int quote = start;
        while (quote < text.length() && text.charAt(quote) == '\\') {
            quote++;
        }
        return quote < text.length() && isQuote(text.charAt(quote)) ? quote + 1 : start;
    }

    /** Returns the end of a quoted value: the same quote, after as many backslashes as before the opening one. */
    private static int quotedEnd(String text, int start) {
        char quote = text.charAt(start - 1);
        int escapes = backslashesBefore(text, start - 1, 0);
        int backslashes = 0;
        for (int i = start; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c == '\\') {
                backslashes++;
            } else if (c == quote && backslashes <= escapes) {
                return i - backslashes;
            } else {
                backslashes = 0;
            }
        }
        return text.length();
    }

    private static int backslashesBefore(String text, int at, int least) {
        int count = 0;
        while (at - 1 - count >= least && text.charAt(at - 1 - count) == '\\') {
            count++;
        }
        return count;
    }

    /**
     * Returns the end of the value of a header, which is the line; the scheme of an authorization is kept, and findings
     * of the token detector are left to it.
     */
    private static long headerValue(String text, int start) {
        int end = until(text, start, "\n\r\"'");
        int blank = text.indexOf(' ', start);
        boolean hasScheme = blank > start && blank < end - 1 && isWord(text, start, blank);
        if (hasScheme && Tokens.isCredential(text, start)) {
            return NOTHING;
        }
        return range(hasScheme ? blank + 1 : start, end);
    }

    private static boolean isWord(String text, int from, int to) {
        for (int i = from; i < to; i++) {
            if (!Character.isLetterOrDigit(text.charAt(i)) && text.charAt(i) != '-') {
                return false;
            }
        }
        return true;
    }

    private static int until(String text, int from, String ends) {
        int end = from;
        while (end < text.length() && ends.indexOf(text.charAt(end)) < 0) {
            end++;
        }
        return end;
    }

    /** A value in square brackets, which a treatment leaves, ends with them. */
    private static int valueEnd(String text, int start) {
        if (start < text.length() && text.charAt(start) == '[') {
            int close = text.indexOf(']', start);
            return close < 0 ? text.length() : close + 1;
        }
        int end = start;
        while (end < text.length() && ENDS.indexOf(text.charAt(end)) < 0) {
            char c = text.charAt(end);
            if (c == ',' || c == ';' || c == '&') {
                int next = parted(text, end + 1);
                if (next == 0) {
                    return end;
                }
                end += next;
            } else if (isEncoded(text, end, '2', '6') || isEncoded(text, end, '2', '2')) {
                return end;
            } else {
                end++;
            }
        }
        return end;
    }

    /**
     * Examines what follows a separator of values.
     *
     * @return 0 if it is another name, a quote, a space or nothing, so that the value ends before the separator; else
     *     the number of characters that belong to the value, including the separator
     */
    private static int parted(String text, int from) {
        int i = from;
        while (i < text.length() && isName(text.charAt(i))) {
            i++;
        }
        boolean isName = i > from && i < text.length() && (text.charAt(i) == '=' || text.charAt(i) == ':');
        boolean isNothing = i == from && (i == text.length() || ENDS.indexOf(text.charAt(i)) >= 0);
        return isName || isNothing ? 0 : 1 + i - from;
    }

    private static boolean isQuote(char c) {
        return c == '"' || c == '\'';
    }

    private static boolean isName(char c) {
        return Character.isLetterOrDigit(c) || c == '_' || c == '-';
    }
}
