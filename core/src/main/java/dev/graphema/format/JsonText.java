package dev.graphema.format;

/** JSON strings and numbers as RFC 8259 defines them. */
final class JsonText {
    private static final long THOUSANDTHS = 1_000;

    /** Numbers up to here with three decimals or fewer are written without {@link Double#toString}, which is slow. */
    private static final double MOST_BY_HAND = 1e6;

    private JsonText() {}

    /** Writes a quoted string; what could break a line or steer a terminal is escaped. */
    static void string(String text, Utf8Buffer to) {
        to.ascii('"');
        int length = text.length();
        if (isPlain(text, length)) {
            to.ascii(text).ascii('"');
            return;
        }
        for (int i = 0; i < length; i++) {
            char c = text.charAt(i);
            if (c < 0x7F && c >= 0x20) {
                if (c == '"' || c == '\\') {
                    to.ascii('\\');
                }
                to.ascii(c);
            } else if (Character.isHighSurrogate(c) && i + 1 < length && Character.isLowSurrogate(text.charAt(i + 1))) {
                to.codePoint(Character.toCodePoint(c, text.charAt(++i)));
            } else if (Escapes.isHarmless(c)) {
                to.codePoint(c);
            } else {
                Escapes.escape(c, to);
            }
        }
        to.ascii('"');
    }

    /** Whether no character needs escaping or encoding, as is mostly so: such a text is copied at once. */
    private static boolean isPlain(String text, int length) {
        for (int i = 0; i < length; i++) {
            char c = text.charAt(i);
            if (c < 0x20 || c >= 0x7F || c == '"' || c == '\\') {
                return false;
            }
        }
        return true;
    }

    /** Writes a real number; what JSON has no number for becomes the text "NaN", "Infinity" or "-Infinity". */
    static void real(double value, Utf8Buffer to) {
        if (Math.abs(value) < MOST_BY_HAND && Math.abs(value) >= 1) {
            long thousandths = Math.round(value * THOUSANDTHS);
            if ((double) thousandths / THOUSANDTHS == value) {
                decimals(thousandths, to);
                return;
            }
        }
        if (Double.isFinite(value)) {
            to.ascii(Double.toString(value));
        } else {
            to.ascii('"').ascii(Double.toString(value)).ascii('"');
        }
    }

    /** A number of thousandths, with one decimal at the least and no zero behind that. */
    private static void decimals(long thousandths, Utf8Buffer to) {
        if (thousandths < 0) {
            to.ascii('-');
        }
        long all = Math.abs(thousandths);
        int rest = (int) (all % THOUSANDTHS);
        to.number(all / THOUSANDTHS).ascii('.').ascii((char) ('0' + rest / 100));
        if (rest % 100 != 0) {
            to.ascii((char) ('0' + rest / 10 % 10));
            if (rest % 10 != 0) {
                to.ascii((char) ('0' + rest % 10));
            }
        }
    }
}
