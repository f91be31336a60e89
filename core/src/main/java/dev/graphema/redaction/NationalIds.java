package dev.graphema.redaction;

/**
 * Social security numbers of the United States: three, two and four digits separated by dashes or spaces, in the
 * assigned ranges. Nine digits without separators are not found, because they are usually something else.
 */
final class NationalIds implements Detector {
    private static final int LENGTH = "078-05-1120".length();

    @Override
    public String name() {
        return "us-ssn";
    }

    @Override
    public int shortest() {
        return LENGTH;
    }

    @Override
    public Trigger trigger() {
        return Trigger.digitsAndAnyOf(9, "- ");
    }

    @Override
    public long find(String text, int from) {
        for (int i = from; i <= text.length() - LENGTH; i++) {
            if (isNumber(text, i)) {
                return Detector.range(i, i + LENGTH);
            }
        }
        return NOTHING;
    }

    private static boolean isNumber(String text, int at) {
        char parts = text.charAt(at + 3);
        if (parts != '-' && parts != ' '
                || text.charAt(at + 6) != parts
                || isPart(text, at - 1)
                || isPart(text, at + LENGTH)) {
            return false;
        }
        for (int i = 0; i < LENGTH; i++) {
            if (i != 3 && i != 6 && !isDigit(text.charAt(at + i))) {
                return false;
            }
        }
        return isInRange(
                text.substring(at, at + 3) + text.substring(at + 4, at + 6) + text.substring(at + 7, at + LENGTH));
    }

    /** Returns whether nine digits are in the assigned ranges. */
    static boolean isInRange(String digits) {
        int area = Integer.parseInt(digits, 0, 3, 10);
        return area != 0 && area != 666 && area < 900 && !digits.startsWith("00", 3) && !digits.endsWith("0000");
    }

    /** Returns whether an adjacent digit, letter or dash makes the number a part of something longer. */
    private static boolean isPart(String text, int at) {
        return at >= 0 && at < text.length() && (Character.isLetterOrDigit(text.charAt(at)) || text.charAt(at) == '-');
    }

    private static boolean isDigit(char c) {
        return c >= '0' && c <= '9';
    }
}
