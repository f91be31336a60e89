package dev.graphema.event;

/**
 * How much of what is put into fields is taken. What is cut off leaves a visible mark.
 *
 * <p>A text that is too long is cut in two steps, because half a secret is no secret that a detector recognises. When it is
 * recorded, {@value #MARGIN} characters more than the limit are taken ({@link #head}). When the event has been redacted, it
 * is cut to the limit ({@link #cut}), and where not all was taken, at least the last {@value #MARGIN} characters are dropped:
 * a secret of up to that length that was taken in part lies in what is dropped.
 *
 * @param depth how many groups and lists may be nested
 * @param width how many entries a group or list, or the event itself, may have
 * @param text how many characters a text may have
 */
record Bounds(int depth, int width, int text) {
    /** For what a program logs: neither its threads nor its memory may suffer from a huge value. */
    static final Bounds SAYING = new Bounds(8, 256, 16 * 1024);

    /** For what was written and is read again: only what was made to exhaust the reader is cut. */
    static final Bounds READING = new Bounds(200, 10_000, Integer.MAX_VALUE);

    static final int MARGIN = 1024;

    /** How many characters the name of a field, a logger or a thread may have. */
    static final int NAME = 1024;

    boolean isTooLong(CharSequence value) {
        return value.length() > text;
    }

    /** The beginning of a text that is too long, to be {@link #cut} later. */
    String head(CharSequence value) {
        int length = (int) Math.min(value.length(), (long) text + MARGIN);
        return value.subSequence(0, length).toString();
    }

    /**
     * Cuts a text that was taken in part.
     *
     * @param value its {@link #head} after redaction
     * @param length how many characters the whole text had
     */
    String cut(String value, long length) {
        boolean isWhole = length <= (long) text + MARGIN;
        if (isWhole && value.length() <= text) {
            return value; // redaction has made it short enough
        }
        int at = isWhole ? text : Math.max(0, Math.min(text, value.length() - MARGIN));
        if (at > 0 && Character.isHighSurrogate(value.charAt(at - 1))) {
            at--;
        }
        return value.substring(0, at) + "… (+" + (length - at) + " characters)";
    }

    /** The name, cut where it is too long, and not within a word. */
    static String name(String name) {
        if (name.length() <= NAME) {
            return name;
        }
        int at = NAME;
        while (at > NAME / 2 && (Character.isLetterOrDigit(name.charAt(at - 1)) || name.charAt(at - 1) == '-')) {
            at--;
        }
        return name.substring(0, at) + "…";
    }
}
