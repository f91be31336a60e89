package dev.graphema.event;

/**
 * How much of what is put into fields is taken. What is cut off leaves a visible mark.
 *
 * @param depth how many groups and lists may be nested
 * @param width how many entries a group or list, or the event itself, may have
 * @param text how many characters a text may have
 */
record Bounds(int depth, int width, int text) {
    /** For what a program says: neither its threads nor its memory may suffer from a huge value. */
    static final Bounds SAYING = new Bounds(8, 256, 16 * 1024);

    /** For what was written and is read again: only what was made to exhaust the reader is cut. */
    static final Bounds READING = new Bounds(200, 10_000, Integer.MAX_VALUE);

    String cut(String value) {
        if (value.length() <= text) {
            return value;
        }
        int at = Character.isHighSurrogate(value.charAt(text - 1)) ? text - 1 : text;
        return value.substring(0, at) + "… (+" + (value.length() - at) + " characters)";
    }
}
