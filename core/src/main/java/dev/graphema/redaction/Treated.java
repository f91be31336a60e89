package dev.graphema.redaction;

import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Tells what a treatment has put into a text, so that it is not taken for a secret again. */
final class Treated {
    private static final Pattern TOKEN = Pattern.compile(
            "\\[redacted [^\\]\\[]{1,200}\\]|\\[removed\\]|\\[hidden\\]|\\[withheld: redaction failed\\]|pseudonym-[A-Za-z0-9_]{1,32}-[a-z]{26}");

    private Treated() {}

    /** Whether nothing but treated text is left: tokens, and what has neither letters nor digits. */
    static boolean isAll(String text) {
        String rest = text.indexOf('[') < 0 && text.indexOf('-') < 0
                ? text
                : TOKEN.matcher(text).replaceAll("");
        return rest.chars().noneMatch(Character::isLetterOrDigit);
    }

    /** The text with everything between the tokens passed through the operator. */
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
