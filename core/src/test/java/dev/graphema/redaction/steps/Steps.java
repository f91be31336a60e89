package dev.graphema.redaction.steps;

/**
 * What counted classes call: counts the characters that they read and the rounds of their loops. For one thread at a
 * time. Each method with the name of one of {@link String} does what that does.
 */
public final class Steps {
    private static long taken;
    private static long most;

    private Steps() {}

    /** What is thrown as soon as more steps were taken than allowed, so that no test waits for an answer that takes hours. */
    static final class TooManyException extends RuntimeException {
        private static final long serialVersionUID = 1;

        private TooManyException() {
            super("more than " + most + " steps");
        }
    }

    /**
     * Begins to count.
     *
     * @param allowed how many steps may be taken
     */
    static void begin(long allowed) {
        taken = 0;
        most = allowed;
    }

    /** How many were taken since then. */
    static long taken() {
        return taken;
    }

    private static void count(long steps) {
        taken += steps;
        if (taken > most) {
            throw new TooManyException();
        }
    }

    /** A loop goes round once more. */
    public static void loop() {
        count(1);
    }

    /** A method is called that may read the complete text. */
    public static void whole(String text) {
        count(text.length() + 1);
    }

    public static char charAt(String text, int index) {
        count(1);
        return text.charAt(index);
    }

    public static boolean startsWith(String text, String prefix, int from) {
        count(prefix.length());
        return text.startsWith(prefix, from);
    }

    public static boolean regionMatches(
            String text, boolean ignoreCase, int from, String other, int otherFrom, int length) {
        count(length);
        return text.regionMatches(ignoreCase, from, other, otherFrom, length);
    }

    public static String substring(String text, int from) {
        count(text.length() - from);
        return text.substring(from);
    }

    public static String substring(String text, int from, int to) {
        count(to - from);
        return text.substring(from, to);
    }

    public static int indexOf(String text, int c) {
        return indexOf(text, c, 0);
    }

    public static int indexOf(String text, String other) {
        return indexOf(text, other, 0);
    }

    public static int indexOf(String text, int c, int from) {
        return looked(text, from, text.indexOf(c, from));
    }

    public static int indexOf(String text, String other, int from) {
        return looked(text, from, text.indexOf(other, from));
    }

    private static int looked(String text, int from, int found) {
        count(1 + Math.max(0, (found < 0 ? text.length() : found) - from));
        return found;
    }

    public static int lastIndexOf(String text, int c) {
        return lastIndexOf(text, c, text.length());
    }

    public static int lastIndexOf(String text, String other) {
        return lastIndexOf(text, other, text.length());
    }

    public static int lastIndexOf(String text, int c, int from) {
        return lookedBack(from, text.lastIndexOf(c, from));
    }

    public static int lastIndexOf(String text, String other, int from) {
        return lookedBack(from, text.lastIndexOf(other, from));
    }

    private static int lookedBack(int from, int found) {
        count(1 + Math.max(0, from - Math.max(0, found)));
        return found;
    }

    public static String replace(String text, CharSequence part, CharSequence instead) {
        whole(text);
        return text.replace(part, instead);
    }

    public static String replaceAll(String text, String pattern, String instead) {
        whole(text);
        return text.replaceAll(pattern, instead);
    }

    public static String[] split(String text, String pattern, int limit) {
        whole(text);
        return text.split(pattern, limit);
    }
}
