package dev.graphema.redaction;

/**
 * Mail addresses: a local part of letters, digits and {@code . _ % + ' -}, an {@code @}, and a domain of two or more
 * labels, the last of which has only letters. The {@code @} may be percent-encoded. Addresses of a host without a dot,
 * and quoted local parts, are not found.
 */
final class MailAddresses implements Detector {
    private static final String ENCODED = "%40";
    private static final int SHORTEST = "a@b.cd".length();
    private static final int LONGEST_LOCAL_PART = 64;
    private static final int LONGEST_DOMAIN = 253;

    @Override
    public String name() {
        return "mail";
    }

    @Override
    public int shortest() {
        return SHORTEST;
    }

    @Override
    public Trigger trigger() {
        return Trigger.anyOf("@").or(Trigger.pair("%", "4"));
    }

    @Override
    public long find(String text, int from) {
        for (int at = from; at < text.length(); at++) {
            int sign = text.charAt(at) == '@' ? 1 : text.startsWith(ENCODED, at) ? ENCODED.length() : 0;
            int start = sign == 0 ? at : localStart(text, from, at);
            int end = start < at ? domainEnd(text, at + sign) : -1;
            if (end > 0) {
                return Detector.range(start, end);
            }
        }
        return NOTHING;
    }

    private static int localStart(String text, int from, int at) {
        int least = Math.max(from, at - LONGEST_LOCAL_PART);
        int start = at;
        while (start > least && isLocal(text.charAt(start - 1))) {
            start--;
        }
        while (start < at && text.charAt(start) == '\'') {
            start++; // a quote around the address
        }
        return start;
    }

    private static boolean isLocal(char c) {
        return Character.isLetterOrDigit(c) || "._%+'-".indexOf(c) >= 0;
    }

    /** Returns the end of the longest valid domain that begins here, or -1. */
    private static int domainEnd(String text, int from) {
        int most = Math.min(text.length(), from + LONGEST_DOMAIN);
        int end = -1;
        int label = from;
        for (int i = from; i <= most; i++) {
            char c = i < most ? text.charAt(i) : ' ';
            if (Character.isLetterOrDigit(c) || c == '-') {
                continue;
            }
            if (i == label) {
                break; // an empty label
            }
            if (label > from && i - label >= 2 && isLetters(text, label, i)) {
                end = i;
            }
            if (c != '.') {
                break;
            }
            label = i + 1;
        }
        return end;
    }

    private static boolean isLetters(String text, int from, int to) {
        for (int i = from; i < to; i++) {
            if (!Character.isLetter(text.charAt(i))) {
                return false;
            }
        }
        return true;
    }
}
