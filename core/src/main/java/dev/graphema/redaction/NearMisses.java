package dev.graphema.redaction;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.Predicate;

/**
 * Finds near misses of detectors: a number without its dashes, a card number with one wrong digit, an address with a
 * space in it. For trying rules, not for the processing of events.
 */
public final class NearMisses {
    /**
     * A near miss.
     *
     * @param detector the detector that almost matches
     * @param text the text
     * @param why the difference
     */
    public record NearMiss(String detector, String text, String why) {}

    private record Almost(String detector, Pattern pattern, Predicate<String> is, String why) {}

    private static final List<Almost> ALMOST = List.of(
            new Almost(
                    "us-ssn",
                    Pattern.compile("\\b[0-9]{9}\\b"),
                    text -> NationalIds.isInRange(text),
                    "nine digits in a right range, without dashes or blanks between them"),
            new Almost(
                    "payment-card",
                    Pattern.compile("\\b[0-9](?:[ -]?[0-9]){12,18}\\b"),
                    text -> !isCard(digits(text)) && isCardButForOneDigit(digits(text)),
                    "the beginning and length of a card number, but a wrong check digit"),
            new Almost(
                    "payment-card",
                    Pattern.compile("\\b[0-9]{4}(?:([./_]|  |- )[0-9]{4}){2}(?:[./_]|  |- )[0-9]{1,7}\\b"),
                    text -> isCard(digits(text)),
                    "a right card number, parted by something else than single blanks or dashes"),
            new Almost(
                    "iban",
                    Pattern.compile("\\b[A-Za-z]{2}[0-9]{2}(?: ?[0-9A-Za-z]){11,30}\\b"),
                    text -> Ibans.hasLengthOfCountry(text.replace(" ", "").toUpperCase(Locale.ROOT)),
                    "the country and length of an account number, but a wrong checksum or small letters"),
            new Almost(
                    "mail",
                    Pattern.compile(
                            "[A-Za-z0-9._%+-]+(?: +@ *| *@ +|\\(at\\)| at )[A-Za-z0-9-]+(?:\\.[A-Za-z0-9-]+)*\\.[A-Za-z]{2,}"),
                    text -> true,
                    "a mail address with a blank or a word in place of the @"),
            new Almost(
                    "mail",
                    Pattern.compile("[A-Za-z0-9._%+-]+@[A-Za-z0-9-]+\\b"),
                    text -> true,
                    "a mail address whose host has no dot"),
            new Almost(
                    "token",
                    Pattern.compile("(?i)\\bbearer [A-Za-z0-9._~+/=-]{3,19}"),
                    text -> true,
                    "a word behind Bearer, too short for a token"));

    private NearMisses() {}

    /** Finds near misses in a text that the rules have already redacted. */
    public static List<NearMiss> of(String redacted) {
        List<NearMiss> found = new ArrayList<>();
        for (Almost almost : ALMOST) {
            Matcher matcher = almost.pattern().matcher(redacted);
            while (matcher.find()) {
                if (almost.is().test(matcher.group())) {
                    found.add(new NearMiss(almost.detector(), matcher.group(), almost.why()));
                }
            }
        }
        return found;
    }

    private static String digits(String text) {
        return text.replaceAll("[^0-9]", "");
    }

    private static boolean isCard(String digits) {
        return digits.length() >= 13
                && digits.length() <= 19
                && PaymentCards.isCard(Long.parseUnsignedLong(digits), digits.length());
    }

    /** Returns whether another check digit makes it a card number. */
    private static boolean isCardButForOneDigit(String digits) {
        String begin = digits.substring(0, digits.length() - 1);
        for (char last = '0'; last <= '9'; last++) {
            if (isCard(begin + last)) {
                return true;
            }
        }
        return false;
    }
}
