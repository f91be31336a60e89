package dev.graphema.text;

/** A set of ASCII characters that is asked for many characters. Immutable. */
public final class AsciiSet {
    private static final int SIZE = 128;

    private final boolean[] has = new boolean[SIZE];

    private AsciiSet() {}

    /** Returns the printable characters, from U+0020 to U+007E, without those given. */
    public static AsciiSet printableExcept(String others) {
        AsciiSet set = new AsciiSet();
        for (char c = ' '; c < SIZE - 1; c++) {
            set.has[c] = others.indexOf(c) < 0;
        }
        return set;
    }

    public boolean contains(char c) {
        return c < SIZE && has[c];
    }

    /** Returns whether the set contains all characters of a text in ASCII. */
    public boolean containsAll(byte[] text, int from, int count) {
        for (int i = from; i < from + count; i++) {
            if (text[i] < 0 || !has[text[i]]) {
                return false;
            }
        }
        return true;
    }

    /** Returns whether the set contains all characters of the text. */
    public boolean containsAll(String text) {
        for (int i = 0; i < text.length(); i++) {
            if (!contains(text.charAt(i))) {
                return false;
            }
        }
        return true;
    }
}
