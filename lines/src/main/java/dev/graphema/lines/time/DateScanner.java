package dev.graphema.lines.time;

/** Recognises a date at the position of a cursor. For one thread, one date after the other. */
final class DateScanner {
    /** How a date is written, on which depends how a time of day may follow it. */
    enum Form {
        /** {@code 2026-11-23} and {@code 2026/11/23}. */
        YEAR_FIRST,
        /** {@code 20261123}, which may be followed by a time without a separator. */
        BASIC,
        /** {@code 23/Nov/2026}. */
        SLASHES_AND_NAME,
        /** All others. */
        OTHER
    }

    private static final String MONTHS = "janfebmaraprmayjunjulaugsepoctnovdec";
    private static final String[] LONG_MONTHS = {
        "january",
        "february",
        "march",
        "april",
        "may",
        "june",
        "july",
        "august",
        "september",
        "october",
        "november",
        "december"
    };
    private static final String DAYS = "montuewedthufrisatsun";

    private final TextCursor text;
    private Form form;
    private int year;
    private int month;
    private int first;
    private boolean isOrderOpen;

    DateScanner(TextCursor text) {
        this.text = text;
    }

    Form form() {
        return form;
    }

    boolean hasYear() {
        return year >= 0;
    }

    int year() {
        return year;
    }

    /** Returns the month; the second number if the order of day and month is open. */
    int month() {
        return month;
    }

    /** Returns the day; the first number if the order of day and month is open. */
    int first() {
        return first;
    }

    /** Returns whether the order of day and month is not evident from the form. */
    boolean isOrderOpen() {
        return isOrderOpen;
    }

    /** Returns the order that a number above 12 proves; null for none. */
    DateOrder provenOrder() {
        return !isOrderOpen || first <= 12 && month <= 12
                ? null
                : first > 12 ? DateOrder.DAY_FIRST : DateOrder.MONTH_FIRST;
    }

    /** Moves over a date. */
    boolean scan() {
        form = Form.OTHER;
        year = -1;
        isOrderOpen = false;
        if (TextCursor.isLetter(text.peek()) && !weekday()) {
            return monthFirst();
        }
        if (TextCursor.isLetter(text.peek())) {
            return monthFirst();
        }
        int digits = text.digits(15);
        return switch (digits) {
            case 8, 14 -> basic();
            case 4 -> yearFirst();
            case 1, 2 -> dayFirst(digits);
            default -> false;
        };
    }

    /** Moves over a weekday and what separates it; returns false, without moving, if there is none. */
    private boolean weekday() {
        int letters = text.letters(10);
        if (letters < 3 || index(DAYS, letters) < 0 || letters > 3 && !isLongDay(letters)) {
            return false;
        }
        int from = text.at();
        text.taken(letters);
        text.take(',');
        if (text.spaces(2) == 0) {
            text.back(from);
            return false;
        }
        return true;
    }

    private boolean isLongDay(int letters) {
        return letters >= 6
                && text.peek(letters - 3) == 'd'
                && text.peek(letters - 2) == 'a'
                && text.peek(letters - 1) == 'y';
    }

    /** Returns the index of the next three letters in a list of names, or -1. */
    private int index(String names, int letters) {
        if (letters < 3) {
            return -1;
        }
        for (int i = 0; i < names.length(); i += 3) {
            if (isAt(names, i, 0) && isAt(names, i + 1, 1) && isAt(names, i + 2, 2)) {
                return i / 3;
            }
        }
        return -1;
    }

    private boolean isAt(String names, int index, int distance) {
        return (text.peek(distance) | 0x20) == names.charAt(index);
    }

    /**
     * Moves over the name of a month.
     *
     * @return whether there is one
     */
    private boolean monthName() {
        int letters = text.letters(10);
        int index = index(MONTHS, letters);
        if (index < 0) {
            return false;
        }
        String whole = LONG_MONTHS[index];
        boolean isShort = letters == 3 || letters == 4 && index == 8;
        if (!isShort && letters != whole.length()) {
            return false;
        }
        for (int i = 3; i < letters; i++) {
            if ((text.peek(i) | 0x20) != whole.charAt(i)) {
                return false;
            }
        }
        text.taken(letters);
        text.take('.');
        month = index + 1;
        return true;
    }

    /** {@code Nov 23}, {@code Nov  3}, {@code November 23, 2026}. */
    private boolean monthFirst() {
        if (!monthName() || text.spaces(2) == 0 && !text.take('-') && !text.take('/')) {
            return false;
        }
        int digits = text.digits(3);
        if (digits < 1 || digits > 2) {
            return false;
        }
        first = text.number(digits);
        int behind = text.at();
        boolean hasComma = text.take(',');
        boolean isSeparated = text.spaces(2) > 0 || text.take('-') || text.take('/');
        if (isSeparated && text.digits(5) == 4 && text.peek(4) != ':') {
            year = text.number(4);
        } else {
            text.back(behind);
            return !hasComma;
        }
        return true;
    }

    /** Moves over the year behind the time, as in {@code Nov 23 04:54:11 2026}, if there is one. */
    void yearBehind() {
        int behind = text.at();
        if (text.spaces(1) == 1 && text.digits(5) == 4 && !TextCursor.isLetter(text.peek(4)) && text.peek(4) != ':') {
            year = text.number(4);
        } else {
            text.back(behind);
        }
    }

    private boolean basic() {
        form = Form.BASIC;
        year = text.number(4);
        month = text.number(2);
        first = text.number(2);
        return true;
    }

    /** {@code 2026-11-23}, {@code 2026/11/23}, {@code 2026.11.23}, {@code 2026-Nov-23}. */
    private boolean yearFirst() {
        form = Form.YEAR_FIRST;
        year = text.number(4);
        char separator = text.peek();
        if (separator != '-' && separator != '/' && separator != '.') {
            return false;
        }
        text.taken(1);
        return takeMonth() && text.take(separator) && takeDay();
    }

    private boolean takeMonth() {
        if (TextCursor.isLetter(text.peek())) {
            return monthName();
        }
        int digits = text.digits(3);
        if (digits < 1 || digits > 2) {
            return false;
        }
        month = text.number(digits);
        return true;
    }

    private boolean takeDay() {
        int digits = text.digits(3);
        if (digits < 1 || digits > 2) {
            return false;
        }
        first = text.number(digits);
        return true;
    }

    /** {@code 23/Nov/2026}, {@code 23 Nov 2026}, {@code 23.11.2026}, {@code 11/23/2026}. */
    private boolean dayFirst(int digits) {
        first = text.number(digits);
        char separator = text.peek();
        if (separator != '/' && separator != '-' && separator != '.' && separator != ' ') {
            return false;
        }
        text.taken(1);
        boolean isNamed = TextCursor.isLetter(text.peek());
        if (!isNamed && separator == ' ' || !takeMonth()) {
            return false;
        }
        isOrderOpen = !isNamed && separator != '.';
        form = isNamed && separator == '/' ? Form.SLASHES_AND_NAME : Form.OTHER;
        int behind = text.at();
        boolean isYear = text.take(separator) && text.digits(5) == 4;
        if (isYear && (text.peek(4) != ':' || form == Form.SLASHES_AND_NAME)) {
            year = text.number(4);
            return true;
        }
        text.back(behind);
        return isNamed && separator == ' '; // 23 Nov 05:01:56
    }
}
