package dev.graphema.redaction;

import java.util.List;

/**
 * Telephone numbers: 8 to 15 digits after a {@code +} (ITU-T E.164), or ten digits in the North American form, {@code
 * (555) 010-0199}, {@code 555-010-0199} or {@code 555.010.0199}, also after {@code 1} or {@code 001}; separated by
 * single spaces, dots, dashes and parentheses. Runs of digits without separators are not found, because they are
 * usually something else.
 */
final class Telephones implements Detector {
    /** The prefixes of a North American number: the country code, also after the international prefix. */
    private static final List<String> PREFIXES = List.of("1", "001", "011 1");

    private static final int SHORTEST = 9;
    private static final int FEWEST = 8;
    private static final int MOST = 15;

    @Override
    public String name() {
        return "telephone";
    }

    @Override
    public int shortest() {
        return SHORTEST;
    }

    @Override
    public Trigger trigger() {
        return Trigger.digitsAndAnyOf(FEWEST, "+-.(");
    }

    @Override
    public long find(String text, int from) {
        for (int i = from; i <= text.length() - SHORTEST; i++) {
            char c = text.charAt(i);
            boolean begins = i == 0 || !isPart(text.charAt(i - 1));
            int end =
                    !begins ? -1 : c == '+' ? international(text, i) : c == '(' || isDigit(c) ? american(text, i) : -1;
            if (end > 0) {
                return Detector.range(i, end);
            }
        }
        return NOTHING;
    }

    /** Returns the longest run of groups with a valid number of digits. */
    private static int international(String text, int from) {
        int digits = 0;
        int end = -1;
        boolean parted = true;
        for (int i = from + 1; i < text.length(); i++) {
            char c = text.charAt(i);
            if (isDigit(c)) {
                if (++digits > MOST) {
                    return end;
                }
                parted = false;
                boolean groupEnds = i + 1 == text.length() || !Character.isLetterOrDigit(text.charAt(i + 1));
                end = groupEnds && digits >= FEWEST ? i + 1 : end;
            } else if (" .-()".indexOf(c) >= 0 && (!parted || c == '(' || c == ' ')) {
                parted = true;
            } else {
                break;
            }
        }
        return end;
    }

    /** Matches the North American form, perhaps after its international prefix. */
    private static int american(String text, int from) {
        for (String prefix : PREFIXES) {
            int at = from + prefix.length();
            if (text.startsWith(prefix, from) && at + 1 < text.length() && " -.".indexOf(text.charAt(at)) >= 0) {
                int end = withoutPrefix(text, at + 1);
                if (end > 0) {
                    return end;
                }
            }
        }
        return withoutPrefix(text, from);
    }

    /** Matches three, three and four digits; the first three may be in parentheses. */
    private static int withoutPrefix(String text, int from) {
        if (text.charAt(from) != '(' && !isDigit(text.charAt(from))) {
            return -1;
        }
        boolean open = text.charAt(from) == '(';
        int i = digits(text, open ? from + 1 : from, 3);
        if (i < 0 || i >= text.length()) {
            return -1;
        }
        if (open) {
            if (text.charAt(i++) != ')') {
                return -1;
            }
            i += i < text.length() && text.charAt(i) == ' ' ? 1 : 0;
        } else if (text.charAt(i) == '-' || text.charAt(i) == '.') {
            i++;
        } else {
            return -1;
        }
        i = digits(text, i, 3);
        if (i < 0 || i >= text.length() || text.charAt(i) != '-' && text.charAt(i) != '.') {
            return -1;
        }
        i = digits(text, i + 1, 4);
        boolean goesOn = i > 0 && i < text.length() && (isPart(text.charAt(i)) || text.charAt(i) == '-');
        return goesOn ? -1 : i;
    }

    /** Returns the end of a number of digits, or -1. */
    private static int digits(String text, int from, int count) {
        for (int i = from; i < from + count; i++) {
            if (i >= text.length() || !isDigit(text.charAt(i))) {
                return -1;
            }
        }
        return from + count;
    }

    private static boolean isPart(char c) {
        return Character.isLetterOrDigit(c) || c == '.' || c == '-' || c == '_';
    }

    private static boolean isDigit(char c) {
        return c >= '0' && c <= '9';
    }
}
