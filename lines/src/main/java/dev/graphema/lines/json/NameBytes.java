package dev.graphema.lines.json;

import java.nio.charset.StandardCharsets;

/** A name as it is in a line, with its closing quote. Immutable. */
final class NameBytes {
    private final String name;
    private final byte[] bytes;

    /** The name with its quotes and the colon. */
    private final byte[] whole;

    NameBytes(String name) {
        this.name = name;
        this.bytes = (name + '"').getBytes(StandardCharsets.UTF_8);
        this.whole = ('"' + name + "\":").getBytes(StandardCharsets.UTF_8);
    }

    String name() {
        return name;
    }

    /** Returns the length in bytes, with the quote. */
    int length() {
        return bytes.length;
    }

    /**
     * Returns whether it is at the position.
     *
     * @param end the end of the line
     */
    boolean isAt(byte[] line, int at, int end) {
        return Bytes.areAt(bytes, line, at, end);
    }

    /**
     * Returns the begin of the value with this name, of the last one if there are several, or -1, in an object without
     * nested ones. Quotes in texts are escaped, so a quote after a comma or brace begins a name or a text, and only
     * names are followed by a colon.
     *
     * @param from after the brace of the object
     * @param to its end
     */
    int valueIn(byte[] line, int from, int to) {
        for (int i = to - whole.length; i >= from; i--) {
            if ((line[i - 1] == ',' || line[i - 1] == '{') && Bytes.areAt(whole, line, i, to)) {
                return i + whole.length;
            }
        }
        return -1;
    }
}
