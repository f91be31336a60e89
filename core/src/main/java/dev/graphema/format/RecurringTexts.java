package dev.graphema.format;

import dev.graphema.text.Utf8Buffer;

/**
 * A cache of the JSON form of texts that recur as the same object, such as names of fields, loggers and threads, and
 * messages. Indexed by hash; a text replaces the previous one with the same index. For one thread.
 */
final class RecurringTexts {
    private static final int SIZE = 512;
    private static final int LONGEST = 128;

    private final String before;
    private final String behind;
    private final String[] texts = new String[SIZE];
    private final byte[][] forms = new byte[SIZE][];

    /** Caches each text between two others, which are ASCII. */
    RecurringTexts(String before, String behind) {
        this.before = before;
        this.behind = behind;
    }

    /** Writes the text as a JSON string between the two others. */
    void write(String text, Utf8Buffer to) {
        int hash = text.hashCode();
        int place = (hash ^ hash >>> 16) & SIZE - 1;
        if (texts[place] == text) {
            byte[] form = forms[place];
            to.bytes(form, 0, form.length);
            return;
        }
        int from = to.length();
        to.ascii(before);
        JsonText.string(text, to);
        to.ascii(behind);
        if (text.length() <= LONGEST) {
            texts[place] = text;
            forms[place] = to.copy(from);
        }
    }
}
