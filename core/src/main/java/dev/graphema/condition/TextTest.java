package dev.graphema.condition;

import com.google.re2j.Pattern;
import dev.graphema.event.ValueTest;
import java.util.Locale;
import java.util.function.Predicate;

/** Asks something of a text; other types answer no. */
final class TextTest extends ValueTest {
    private final Predicate<String> question;

    private TextTest(Predicate<String> question) {
        this.question = question;
    }

    static TextTest of(Operator operator, String text) {
        return new TextTest(
                switch (operator) {
                    case STARTS -> value -> value.startsWith(text);
                    case ENDS -> value -> value.endsWith(text);
                    case HAS -> {
                        String lower = text.toLowerCase(Locale.ROOT);
                        yield value -> contains(value, lower);
                    }
                    case MATCHES -> {
                        Pattern pattern = Pattern.compile(text);
                        yield value -> pattern.matcher(value).find();
                    }
                    case LIKE -> {
                        Pattern pattern = Pattern.compile(patternOf(text));
                        yield value -> pattern.matcher(value).matches();
                    }
                    case NEAR -> WordTest.near(text);
                    default -> throw new IllegalArgumentException(operator + " is not asked of texts alone");
                });
    }

    /** The regular expression that a text with {@code *} and {@code ?} means. */
    private static String patternOf(String like) {
        StringBuilder pattern = new StringBuilder("(?is)");
        like.chars()
                .forEach(c ->
                        pattern.append(c == '*' ? ".*" : c == '?' ? "." : Pattern.quote(String.valueOf((char) c))));
        return pattern.toString();
    }

    /** Whether the text contains the other, which is in lower case, in any case. */
    static boolean contains(String text, String lower) {
        if (lower.isEmpty()) {
            return true;
        }
        int last = text.length() - lower.length();
        char first = lower.charAt(0);
        for (int i = 0; i <= last; i++) {
            char c = text.charAt(i);
            boolean mayStart = c == first || Character.toLowerCase(c) == first;
            if (mayStart && text.regionMatches(true, i, lower, 0, lower.length())) {
                return true;
            }
        }
        return false;
    }

    @Override
    public boolean text(String value) {
        return question.test(value);
    }
}
