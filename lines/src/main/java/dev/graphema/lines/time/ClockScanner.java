package dev.graphema.lines.time;

import java.time.DateTimeException;
import java.time.ZoneId;
import java.time.ZoneOffset;

/** Recognises a time of day and its zone behind a date. For one thread, one time after the other. */
final class ClockScanner {
    private static final int LONGEST_ZONE = 5;

    private final TextCursor text;
    private final TimeRules rules;
    private int hour;
    private int minute;
    private int second;
    private int nano;
    private int offset;
    private String doubtfulZone;

    ClockScanner(TextCursor text, TimeRules rules) {
        this.text = text;
        this.rules = rules;
    }

    int secondOfDay() {
        return hour * 3600 + minute * 60 + second;
    }

    int nanoOfSecond() {
        return nano;
    }

    int offsetSeconds() {
        return offset;
    }

    /** Returns the name of a zone whose offset is not known; null for none. */
    String doubtfulZone() {
        return doubtfulZone;
    }

    /** Moves over the time of day; if there is none, it is midnight, and the cursor does not move. */
    boolean scan(DateScanner.Form form) {
        hour = minute = second = nano = offset = 0;
        doubtfulZone = null;
        int from = text.at();
        if (separator(form) && timeOfDay(form) && isValid()) {
            zone();
            return true;
        }
        hour = minute = second = nano = 0;
        text.back(from);
        return false;
    }

    private boolean separator(DateScanner.Form form) {
        if (text.take('T') || text.take('t') || text.take('_')) {
            return true;
        }
        if (form == DateScanner.Form.SLASHES_AND_NAME && text.take(':')) {
            return true;
        }
        if (form == DateScanner.Form.BASIC && (text.take('-') || text.digits(1) == 1)) {
            return true;
        }
        text.take(',');
        return text.spaces(3) > 0;
    }

    private boolean timeOfDay(DateScanner.Form form) {
        int digits = text.digits(7);
        boolean isBasic = form == DateScanner.Form.BASIC && (digits == 6 || digits == 4);
        if (!isBasic && digits != 1 && digits != 2) {
            return false;
        }
        hour = text.number(isBasic ? 2 : digits);
        if (!isBasic && !text.take(':') || text.digits(2) != 2) {
            return false;
        }
        minute = text.number(2);
        boolean hasSeconds = isBasic ? digits == 6 : text.peek() == ':' && TextCursor.isDigit(text.peek(1));
        if (hasSeconds) {
            if (!isBasic) {
                text.take(':');
            }
            if (text.digits(3) != 2) {
                return false;
            }
            second = text.number(2);
            fraction();
        }
        return halfOfDay();
    }

    private void fraction() {
        char mark = text.peek();
        boolean isFraction = (mark == '.' || mark == ',') && TextCursor.isDigit(text.peek(1));
        if (!isFraction && !(mark == ':' && isThreeDigits())) {
            return;
        }
        text.taken(1);
        int value = 0;
        int digits = 0;
        for (; TextCursor.isDigit(text.peek()); digits++) {
            int digit = text.number(1);
            value = digits < 9 ? value * 10 + digit : value;
        }
        for (; digits < 9; digits++) {
            value *= 10;
        }
        nano = value;
    }

    /** Whether milliseconds follow a colon: {@code 05:01:56:022}. */
    private boolean isThreeDigits() {
        return TextCursor.isDigit(text.peek(1))
                && TextCursor.isDigit(text.peek(2))
                && TextCursor.isDigit(text.peek(3))
                && !TextCursor.isDigit(text.peek(4));
    }

    private boolean halfOfDay() {
        int space = text.peek() == ' ' ? 1 : 0;
        int half = text.peek(space) | 0x20;
        boolean isHalf = (half == 'a' || half == 'p')
                && (text.peek(space + 1) | 0x20) == 'm'
                && !TextCursor.isLetter(text.peek(space + 2));
        if (!isHalf) {
            return true;
        }
        text.taken(space + 2);
        if (hour < 1 || hour > 12) {
            return false;
        }
        hour = hour % 12 + (half == 'p' ? 12 : 0);
        return true;
    }

    private boolean isValid() {
        boolean isEndOfDay = hour == 24 && minute == 0 && second == 0 && nano == 0;
        boolean ends = !TextCursor.isDigit(text.peek());
        return ends && (hour < 24 || isEndOfDay) && minute < 60 && second <= 60;
    }

    private void zone() {
        int from = text.at();
        text.spaces(1);
        char c = text.peek();
        if ((c == 'Z' || c == 'z') && !isWordCharacter(text.peek(1))) {
            text.taken(1);
        } else if (c == '+' || c == '-' || c == '\u2212') {
            if (!offset()) {
                text.back(from);
                return;
            }
        } else if (!name()) {
            text.back(from);
            return;
        }
        regionInBrackets();
    }

    private static boolean isWordCharacter(char c) {
        return TextCursor.isLetter(c) || TextCursor.isDigit(c) || c == '_';
    }

    /** {@code +01:00}, {@code +0100}, {@code +01}. */
    private boolean offset() {
        int from = text.at();
        int sign = text.peek() == '+' ? 1 : -1;
        text.taken(1);
        int digits = text.digits(5);
        if (digits != 2 && digits != 4) {
            text.back(from);
            return false;
        }
        int hours = text.number(2);
        int minutes = 0;
        if (digits == 4) {
            minutes = text.number(2);
        } else if (text.peek() == ':' && TextCursor.isDigit(text.peek(1)) && TextCursor.isDigit(text.peek(2))) {
            text.taken(1);
            minutes = text.number(2);
        }
        if (hours > 18 || minutes > 59) {
            text.back(from);
            return false;
        }
        offset = sign * (hours * 3600 + minutes * 60);
        return true;
    }

    /** {@code UTC}, {@code EST}, {@code GMT+01:00}. */
    private boolean name() {
        int letters = 0;
        while (letters <= LONGEST_ZONE && text.peek(letters) >= 'A' && text.peek(letters) <= 'Z') {
            letters++;
        }
        if (letters < 2 || letters > LONGEST_ZONE || isWordCharacter(text.peek(letters))) {
            return false;
        }
        int from = text.at();
        String name = text.taken(letters);
        ZoneOffset known = rules.offset(name);
        if (known == null) {
            doubtfulZone = Zones.isAmbiguous(name) ? name : null;
            text.back(from);
            return false;
        }
        offset = known.getTotalSeconds();
        if (offset == 0 && (text.peek() == '+' || text.peek() == '-')) {
            offset();
        }
        return true;
    }

    /** {@code [Europe/Oslo]} behind an offset, which it does not change. */
    private void regionInBrackets() {
        int from = text.at();
        if (!text.take('[')) {
            return;
        }
        int length = 0;
        while (length < 50 && text.peek(length) != ']' && text.peek(length) > ' ') {
            length++;
        }
        if (text.peek(length) == ']' && isRegion(text.taken(length))) {
            text.taken(1);
        } else {
            text.back(from);
        }
    }

    private static boolean isRegion(String name) {
        try {
            return !name.isEmpty() && ZoneId.of(name) != null;
        } catch (DateTimeException e) {
            return false;
        }
    }
}
