package dev.graphema.redaction;

/**
 * Private keys in PEM form (RFC 7468): from {@code -----BEGIN … PRIVATE KEY-----} to the end mark, or to the end of the
 * text if it is cut off. Certificates and public keys are not found.
 */
final class PrivateKeys implements Detector {
    private static final String BEGIN = "-----BEGIN ";
    private static final String PRIVATE = "PRIVATE KEY-----";
    private static final String END = "-----END ";
    private static final String DASHES = "-----";
    private static final int LONGEST_LABEL = 40;

    @Override
    public String name() {
        return "private-key";
    }

    @Override
    public int shortest() {
        return BEGIN.length() + PRIVATE.length();
    }

    @Override
    public Trigger trigger() {
        return Trigger.pair("-", "-");
    }

    @Override
    public long find(String text, int from) {
        for (int begin = text.indexOf(BEGIN, from); begin >= 0; begin = text.indexOf(BEGIN, begin + 1)) {
            int label = label(text, begin);
            if (label >= 0) {
                int end = text.indexOf(END, label);
                int close = end < 0 ? -1 : text.indexOf(DASHES, end + END.length());
                return Detector.range(begin, close < 0 ? text.length() : close + DASHES.length());
            }
        }
        return NOTHING;
    }

    /** Returns the position of the end of a valid label near the begin mark; -1 if there is none. */
    private static int label(String text, int begin) {
        for (int at = begin; at <= begin + LONGEST_LABEL; at++) {
            if (text.startsWith(PRIVATE, at)) {
                return at;
            }
        }
        return -1;
    }
}
