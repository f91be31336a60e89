package dev.graphema.redaction;

import java.util.List;

/**
 * International bank account numbers (ISO 13616): country, check digits and account, together or in groups separated by
 * one space, with the length of the country and a valid checksum (ISO 7064, mod 97-10). Upper-case letters only.
 */
final class Ibans implements Detector {
    /** The length of the numbers of each country. */
    private static final String LENGTHS =
            "AD24 AE23 AL28 AT20 AZ28 BA20 BE16 BG22 BH22 BR29 BY28 CH21 CR22 CY28 CZ24 DE22 DK18"
                    + " DO28 EE20 EG29 ES24 FI18 FO18 FR27 GB22 GE22 GI23 GL18 GR27 GT28 HR21 HU28 IE22 IL23 IQ23 IS26 IT27 JO30 KW30"
                    + " KZ20 LB28 LC32 LI21 LT20 LU20 LV21 LY25 MC27 MD24 ME22 MK19 MR27 MT31 MU30 NL18 NO15 PK24 PL28 PS29 PT25 QA29"
                    + " RO24 RS22 SA24 SC31 SE24 SI19 SK24 SM27 ST25 SV28 TL23 TN24 TR26 UA29 VA22 VG24 XK20 ";

    private static final String LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ";
    private static final String DIGITS = "0123456789";
    private static final int SHORTEST = 15;

    @Override
    public String name() {
        return "iban";
    }

    @Override
    public int shortest() {
        return SHORTEST; // Norway
    }

    @Override
    public Trigger trigger() {
        return new Trigger(List.of(new Trigger.Sign(LETTERS, DIGITS)), 2);
    }

    @Override
    public long find(String text, int from) {
        int last = text.length() - SHORTEST;
        for (int i = from; i <= last; i++) {
            while (i <= last && !isPart(text.charAt(i + 3))) {
                i += 4; // none can begin before that character, nor with it
            }
            if (i > last) {
                break;
            }
            boolean begins = isLetter(text.charAt(i))
                    && isLetter(text.charAt(i + 1))
                    && isDigit(text.charAt(i + 2))
                    && isDigit(text.charAt(i + 3))
                    && (i == 0 || !isPart(text.charAt(i - 1)));
            int end = begins ? end(text, i) : -1;
            if (end > 0) {
                return Detector.range(i, end);
            }
        }
        return NOTHING;
    }

    /** Returns the end of a valid number that begins here, or -1. */
    private static int end(String text, int from) {
        int at = LENGTHS.indexOf(text.substring(from, from + 2));
        if (at < 0 || at % 5 != 0) {
            return -1;
        }
        int length = Integer.parseInt(LENGTHS.substring(at + 2, at + 4));
        StringBuilder number = new StringBuilder(length);
        int i = from;
        while (i < text.length() && number.length() < length) {
            char c = text.charAt(i);
            boolean parts = c == ' ' && i + 1 < text.length() && isPart(text.charAt(i + 1));
            if (isPart(c)) {
                number.append(c);
            } else if (!parts) {
                return -1;
            }
            i++;
        }
        boolean goesOn = i < text.length() && isPart(text.charAt(i));
        return number.length() == length && !goesOn && hasRightChecksum(number) ? i : -1;
    }

    /** Returns whether it begins with the letters of a country and has the length of its numbers. */
    static boolean hasLengthOfCountry(String text) {
        int at = LENGTHS.indexOf(text.substring(0, 2));
        return at >= 0 && at % 5 == 0 && Integer.parseInt(LENGTHS.substring(at + 2, at + 4)) == text.length();
    }

    private static boolean hasRightChecksum(StringBuilder number) {
        int rest = 0;
        for (int i = 0; i < number.length(); i++) {
            char c = number.charAt((i + 4) % number.length());
            rest = isDigit(c) ? (rest * 10 + c - '0') % 97 : (rest * 100 + c - 'A' + 10) % 97;
        }
        return rest == 1;
    }

    private static boolean isPart(char c) {
        return isLetter(c) || isDigit(c);
    }

    private static boolean isLetter(char c) {
        return c >= 'A' && c <= 'Z';
    }

    private static boolean isDigit(char c) {
        return c >= '0' && c <= '9';
    }
}
