package dev.graphema.query.part;

/**
 * The shape of a text: the text with its numbers, times, ids, addresses, paths and quoted parts replaced by their kinds, so
 * that messages that differ only in these are alike: {@code lane A3 not free after 250ms} and {@code lane B12 not free after
 * 3ms} have the shape {@code lane A<number> not free after <number>ms}. It is computed in one pass over the text.
 */
public final class TextShape {
    private static final int LONGEST_TEXT = 4_000;
    private static final int LONGEST_SHAPE = 300;
    private static final int SHORTEST_ID = 8;
    private static final String ENDS = " \t,;=()[]{}<>|";
    private static final String PUNCTUATION = ".:!?";

    private final String text;
    private final StringBuilder shape = new StringBuilder();

    private TextShape(String text) {
        this.text = text;
    }

    /** Returns the shape of the first line of a text, up to {@value #LONGEST_SHAPE} characters. */
    public static String of(String text) {
        int end = 0;
        while (end < text.length() && end < LONGEST_TEXT && text.charAt(end) != '\n' && text.charAt(end) != '\r') {
            end++;
        }
        return new TextShape(text.substring(0, end)).build();
    }

    private String build() {
        int at = 0;
        while (at < text.length() && shape.length() < LONGEST_SHAPE) {
            char c = text.charAt(at);
            int quoted = c == '"' || c == '`' || c == '\'' && isBegin(at) ? quoteEnd(at) : -1;
            if (quoted > 0) {
                shape.append(c).append("<text>").append(c);
                at = quoted;
            } else if (ENDS.indexOf(c) >= 0 || c == '"' || c == '\'' || c == '`') {
                shape.append(c);
                at++;
            } else {
                at = token(at);
            }
        }
        return shape.length() > LONGEST_SHAPE ? shape.substring(0, LONGEST_SHAPE) : shape.toString();
    }

    /** Whether a word could begin here, so that an apostrophe is not within one. */
    private boolean isBegin(int at) {
        return at == 0 || ENDS.indexOf(text.charAt(at - 1)) >= 0 || text.charAt(at - 1) == ':';
    }

    /** Returns the position behind the closing quote; -1 if there is none. */
    private int quoteEnd(int at) {
        char quote = text.charAt(at);
        for (int i = at + 1; i < text.length(); i++) {
            if (text.charAt(i) == '\\') {
                i++;
            } else if (text.charAt(i) == quote) {
                boolean ends = quote != '\'' || i + 1 == text.length() || !Character.isLetter(text.charAt(i + 1));
                if (ends) {
                    return i + 1;
                }
            }
        }
        return -1;
    }

    private int token(int from) {
        int end = from;
        boolean isLocator = text.charAt(from) == '/';
        while (end < text.length() && !isEnd(text.charAt(end), isLocator)) {
            isLocator |= text.startsWith("://", end);
            end++;
        }
        int last = end;
        while (last > from + 1 && PUNCTUATION.indexOf(text.charAt(last - 1)) >= 0) {
            last--;
        }
        word(text.substring(from, last));
        shape.append(text, last, end);
        return end;
    }

    /** Whether a character ends a token; paths and URLs may contain an equals sign. */
    private static boolean isEnd(char c, boolean isLocator) {
        return (ENDS.indexOf(c) >= 0 || "\"'`".indexOf(c) >= 0) && !(isLocator && c == '=');
    }

    private void word(String word) {
        int digits = 0;
        int letters = 0;
        int hex = 0;
        int others = 0;
        for (int i = 0; i < word.length(); i++) {
            char c = word.charAt(i);
            boolean isDigit = c >= '0' && c <= '9';
            digits += isDigit ? 1 : 0;
            letters += Character.isLetter(c) ? 1 : 0;
            hex += isDigit || c >= 'a' && c <= 'f' || c >= 'A' && c <= 'F' || c == '-' ? 1 : 0;
            others += isDigit || Character.isLetter(c) ? 0 : 1;
        }
        if (isPath(word)) {
            shape.append("<path>");
        } else if (word.indexOf("://") > 0) {
            shape.append("<url>");
        } else if (word.indexOf('@') > 0 && word.indexOf('.', word.indexOf('@')) > 0 && letters > 0) {
            shape.append("<address>");
        } else if (digits == 0) {
            shape.append(word);
        } else if (isTime(word)) {
            kind("<time>");
        } else if (isAddress(word, letters)) {
            shape.append("<address>");
        } else if (hex == word.length() && letters > 0 && word.length() >= SHORTEST_ID && changes(word) > 1) {
            shape.append("<id>");
        } else if (letters > 0 && others == 0 && word.length() >= SHORTEST_ID && changes(word) >= 4) {
            shape.append("<id>");
        } else {
            numbers(word);
        }
    }

    /** Date and time of day are one time. */
    private void kind(String kind) {
        boolean isRepeated = shape.length() > kind.length()
                && shape.charAt(shape.length() - 1) == ' '
                && shape.lastIndexOf(kind) == shape.length() - 1 - kind.length();
        if (isRepeated) {
            shape.setLength(shape.length() - 1);
        } else {
            shape.append(kind);
        }
    }

    private static boolean isPath(String word) {
        int slashes = 0;
        for (int i = 0; i < word.length(); i++) {
            slashes += word.charAt(i) == '/' ? 1 : 0;
        }
        return word.length() > 1 && (word.charAt(0) == '/' || slashes >= 2 && word.indexOf("://") < 0);
    }

    /** {@code 2026-11-23}, {@code 05:01:56.022}, {@code 2026-11-23T05:01:56Z}. */
    private static boolean isTime(String word) {
        return isDigits(word, 0, 4)
                        && word.length() >= 10
                        && isSeparator(word.charAt(4))
                        && word.charAt(4) == word.charAt(7)
                        && isDigits(word, 5, 2)
                        && isDigits(word, 8, 2)
                || isDigits(word, 0, 2)
                        && word.length() >= 8
                        && word.charAt(2) == ':'
                        && word.charAt(5) == ':'
                        && isDigits(word, 3, 2)
                        && isDigits(word, 6, 2);
    }

    private static boolean isSeparator(char c) {
        return c == '-' || c == '/' || c == '.';
    }

    private static boolean isDigits(String word, int from, int count) {
        if (word.length() < from + count) {
            return false;
        }
        for (int i = from; i < from + count; i++) {
            if (word.charAt(i) < '0' || word.charAt(i) > '9') {
                return false;
            }
        }
        return true;
    }

    /** IPv4 and IPv6, perhaps with a port. */
    private static boolean isAddress(String word, int letters) {
        int dots = 0;
        int colons = 0;
        for (int i = 0; i < word.length(); i++) {
            char c = word.charAt(i);
            dots += c == '.' ? 1 : 0;
            colons += c == ':' ? 1 : 0;
            boolean isHex = c >= '0' && c <= '9' || c >= 'a' && c <= 'f' || c >= 'A' && c <= 'F';
            if (!isHex && c != '.' && c != ':' && c != '/') {
                return false;
            }
        }
        return dots == 3 && letters == 0 || colons >= 3;
    }

    /** Returns how often digits and letters alternate: more often in a random id than in a name with a number. */
    private static int changes(String word) {
        int changes = 0;
        for (int i = 1; i < word.length(); i++) {
            changes += Character.isDigit(word.charAt(i)) != Character.isDigit(word.charAt(i - 1)) ? 1 : 0;
        }
        return changes;
    }

    /** Replaces numbers, with sign, decimal point and exponent, within a word. */
    private void numbers(String word) {
        int at = 0;
        while (at < word.length()) {
            char c = word.charAt(at);
            boolean isSign = (c == '-' || c == '+') && at == 0 && isDigits(word, 1, 1);
            if (!isSign && (c < '0' || c > '9')) {
                shape.append(c);
                at++;
                continue;
            }
            at++;
            while (at < word.length()
                    && (isDigits(word, at, 1) || word.charAt(at) == '.' && isDigits(word, at + 1, 1))) {
                at++;
            }
            shape.append("<number>");
        }
    }
}
