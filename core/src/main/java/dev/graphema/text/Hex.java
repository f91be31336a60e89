package dev.graphema.text;

/** Lower-case hexadecimal, the only form that W3C Trace Context allows. */
public final class Hex {
    private Hex() {}

    public static boolean isHex(String text) {
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (!(c >= '0' && c <= '9' || c >= 'a' && c <= 'f')) {
                return false;
            }
        }
        return true;
    }

    public static long parse(String text, int from) {
        return Long.parseUnsignedLong(text, from, from + 16, 16);
    }

    public static String digits(long bits) {
        byte[] digits = new byte[16];
        for (int i = 15, shift = 0; i >= 0; i--, shift += 4) {
            digits[i] = (byte) Character.forDigit((int) (bits >>> shift) & 15, 16);
        }
        return new String(digits, java.nio.charset.StandardCharsets.ISO_8859_1);
    }
}
