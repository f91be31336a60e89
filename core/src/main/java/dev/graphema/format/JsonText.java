package dev.graphema.format;

import dev.graphema.event.EventRecord;
import dev.graphema.text.Escapes;
import dev.graphema.text.Utf8Buffer;

/** Writes JSON strings and numbers (RFC 8259). */
final class JsonText {
    private JsonText() {}

    /** Writes a quoted string, with escapes for characters that could break a line or control a terminal. */
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

    /**
     * Writes a text of a record as a quoted string. One that was found to need no escape is copied.
     *
     * @param text a handle of the record, not 0
     */
    static void string(EventRecord event, long text, Utf8Buffer to) {
        if (event.isPlain(text)) {
            to.ascii('"')
                    .bytes(event.array(), event.from(text), event.length(text))
                    .ascii('"');
        } else {
            string(event.string(text), to);
        }
    }

    /** Whether no character needs escaping or encoding, which is usual: such a text is copied at once. */
    private static boolean isPlain(String text, int length) {
        for (int i = 0; i < length; i++) {
            char c = text.charAt(i);
            if (c < 0x20 || c >= 0x7F || c == '"' || c == '\\') {
                return false;
            }
        }
        return true;
    }

    /** Writes a double; values without a JSON number become the text "NaN", "Infinity" or "-Infinity". */
    static void real(double value, Utf8Buffer to) {
        if (Double.isFinite(value)) {
            to.real(value);
        } else {
            to.ascii('"').ascii(Double.toString(value)).ascii('"');
        }
    }
}
