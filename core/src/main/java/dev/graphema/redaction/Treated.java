package dev.graphema.redaction;

import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Recognises the results of treatments, so that they are not detected as secrets. */
final class Treated {
    private static final Pattern TOKEN = Pattern.compile(
            "\\[redacted [^\\]\\[]{1,200}\\]|\\[removed\\]|\\[hidden\\]|\\[withheld: redaction failed\\]|pseudonym-[A-Za-z0-9_]{1,32}-[a-z]{26}");

    private Treated() {}

    /**
     * Returns whether the text consists only of results of treatments and of characters that are neither letters nor
     * digits.
     */
    static boolean isAll(String text) {
        String rest = text.indexOf('[') < 0 && text.indexOf('-') < 0
                ? text
                : TOKEN.matcher(text).replaceAll("");
        return rest.chars().noneMatch(Character::isLetterOrDigit);
    }

    /** Applies the operator to the text between results of treatments. */
    static String outside(String text, UnaryOperator<String> operator) {
        Matcher token = TOKEN.matcher(text);
        StringBuilder result = new StringBuilder(text.length());
        int copied = 0;
        while (token.find()) {
            result.append(operator.apply(text.substring(copied, token.start()))).append(token.group());
            copied = token.end();
        }
        return copied == 0
                ? operator.apply(text)
                : result.append(operator.apply(text.substring(copied))).toString();
    }
}
