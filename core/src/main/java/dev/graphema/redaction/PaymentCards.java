package dev.graphema.redaction;

/**
 * Payment card numbers: 13 to 19 digits, together or in groups separated by one space or dash, with a prefix and a
 * length of a card scheme, and a valid check digit (ISO/IEC 7812-1, Luhn). Adjacent letters and zero-width characters
 * between digits do not hide a number; further digits do. A number with a decimal point is not a card number.
 */
public final class PaymentCards implements Detector {
    private static final int FEWEST = 13;
    private static final int MOST = 19;

    @Override
    public String name() {
        return "payment-card";
    }

    @Override
    public int shortest() {
        return FEWEST;
    }

    @Override
    public Trigger trigger() {
        return Trigger.digits(FEWEST);
    }

    @Override
    public long find(String text, int from) {
        int length = text.length();
        for (int i = from; i <= length - FEWEST; i++) {
            if (digit(text.charAt(i)) < 0 || i > 0 && digit(text.charAt(i - 1)) >= 0) {
                continue;
            }
            int end = isFraction(text, i) ? -1 : cardEnd(text, i);
            if (end > 0 && !isPoint(text, end)) {
                return Detector.range(i, end);
            }
        }
        return NOTHING;
    }

    /** Returns whether the digits follow a decimal point. */
    private static boolean isFraction(String text, int at) {
        return at > 1 && text.charAt(at - 1) == '.' && digit(text.charAt(at - 2)) >= 0;
    }

    /** Returns whether a decimal point and digits follow. */
    private static boolean isPoint(String text, int at) {
        return at + 1 < text.length() && text.charAt(at) == '.' && digit(text.charAt(at + 1)) >= 0;
    }

    /** Zero-width characters, which may be between digits in text that was copied from a page. */
    private static boolean isInvisible(char c) {
        return c == '\u00AD' || c >= '\u200B' && c <= '\u200D' || c == '\u2060' || c == '\uFEFF';
    }

    /** Returns the end of the longest card number that begins here, or -1. */
    private static int cardEnd(String text, int from) {
        long number = 0; // 19 digits fit into the 64 bits, read as unsigned
        int count = 0;
        int end = -1;
        int i = from;
        while (i < text.length()) {
            int digit = digit(text.charAt(i));
            if (digit < 0 && isInvisible(text.charAt(i))) {
                i++;
                continue;
            }
            if (digit < 0) {
                boolean separates = text.charAt(i) == ' ' || text.charAt(i) == '-' || text.charAt(i) == '\u00A0';
                if (!separates
                        || i + 1 == text.length()
                        || digit(text.charAt(i + 1)) < 0 && !isInvisible(text.charAt(i + 1))) {
                    break;
                }
                i++;
                continue;
            }
            if (count == MOST) {
                // One digit too many; what was found up to the last separator still counts.
                return end;
            }
            number = number * 10 + digit;
            count++;
            i++;
            boolean groupEnds = i == text.length() || digit(text.charAt(i)) < 0 && !isInvisible(text.charAt(i));
            if (groupEnds && count >= FEWEST && isCard(number, count)) {
                end = i;
            }
        }
        return end;
    }

    static boolean isCard(long number, int digits) {
        return isOfScheme(number, digits) && hasRightCheckDigit(number);
    }

    private static boolean isOfScheme(long number, int digits) {
        long rest = number;
        for (int i = digits; i > 6; i--) {
            rest = Long.divideUnsigned(rest, 10);
        }
        int six = (int) rest;
        int two = six / 10_000;
        int four = six / 100;
        return switch (digits) {
            case 13 -> two / 10 == 4;
            case 14 -> two == 36 || two == 38 || two == 39 || four / 10 >= 300 && four / 10 <= 305;
            case 15 -> two == 34 || two == 37;
            case 16 ->
                two / 10 == 4
                        || two >= 50 && two <= 69
                        || two == 35
                        || two == 30
                        || two == 36
                        || two == 38
                        || two == 39
                        || four >= 2200 && four <= 2720;
            default -> two == 35 || two >= 50 && two <= 69 || digits == 19 && two / 10 == 4;
        };
    }

    private static boolean hasRightCheckDigit(long number) {
        int sum = 0;
        boolean doubled = false;
        for (long rest = number; rest != 0; rest = Long.divideUnsigned(rest, 10)) {
            int digit = (int) Long.remainderUnsigned(rest, 10);
            int value = doubled ? digit * 2 : digit;
            sum += value > 9 ? value - 9 : value;
            doubled = !doubled;
        }
        return sum % 10 == 0;
    }

    private static int digit(char c) {
        if (c < 0x80) {
            return c >= '0' && c <= '9' ? c - '0' : -1;
        }
        return Character.digit(c, 10); // full-width and other digits that people's keyboards make
    }
}
