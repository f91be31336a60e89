package dev.graphema.event;

/**
 * Limits of names and values. A visible marker shows where a value was cut.
 *
 * <p>A text that is too long is cut in two steps, because a detector may not recognise a part of a secret. First,
 * {@value #MARGIN} characters more than the limit are recorded ({@link #head}). After redaction, the text is cut to the
 * limit ({@link #cut}); if it was not recorded completely, at least the last {@value #MARGIN} characters are dropped,
 * and with them any partial secret up to that length.
 *
 * @param depth the deepest nesting of groups and lists
 * @param width the most entries of a group, a list, or the event itself
 * @param text the most characters of a text
 */
record Bounds(int depth, int width, int text) {
    /** The limits for emitted events: a huge value must not affect the threads and the memory of the program. */
    static final Bounds EMITTING = new Bounds(8, 256, 16 * 1024);

    /** The limits for events that are read: only values that were made to exhaust the reader are cut. */
    static final Bounds READING = new Bounds(200, 10_000, Integer.MAX_VALUE);

    static final int MARGIN = 1024;

    /** The most characters of the name of a field, a logger or a thread. */
    static final int NAME = 1024;

    boolean isTooLong(CharSequence value) {
        return value.length() > text;
    }

    /** Returns the beginning of a text that is too long, to be {@link #cut} later. */
    String head(CharSequence value) {
        int length = (int) Math.min(value.length(), (long) text + MARGIN);
        return value.subSequence(0, length).toString();
    }

    /**
     * Cuts a text that was recorded in part.
     *
     * @param value its {@link #head} after redaction
     * @param length the length of the complete text
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

    /** Returns the name, cut if it is too long, but not within a surrogate pair. */
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
