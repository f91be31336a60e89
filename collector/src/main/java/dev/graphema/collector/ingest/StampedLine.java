package dev.graphema.collector.ingest;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;

/** Adds the stamp to a line of Graphema JSON where readers find it fastest, without reading the line. For one thread. */
final class StampedLine {
    private static final byte[] OWN = "{\"time\":\"".getBytes(StandardCharsets.US_ASCII);
    private static final byte[] LEVEL = "Z\",\"level\":\"".getBytes(StandardCharsets.US_ASCII);
    private static final byte[] FIELDS = ",\"fields\":{".getBytes(StandardCharsets.US_ASCII);

    /** Where the level is in Graphema JSON: behind a time of fixed length. */
    private static final int LEVEL_AT = OWN.length + "2026-05-15T06:31:02.123456789".length();

    private final byte[] member;

    StampedLine(Stamp stamp) {
        this.member = stamp.member();
    }

    /**
     * Writes a line with the stamp.
     *
     * @param last the place of the brace that ends the line
     * @return false if nothing was written, because the line must be read
     */
    boolean write(byte[] line, int from, int last, ByteArrayOutputStream to) {
        int brace = indexOf(line, from + 1, last, '{');
        if (brace < 0) {
            return write(line, from, last, true, "\"fields\":{", "}}", to);
        }
        // Braces can be in texts, and objects behind the fields: such lines are read.
        int name = brace + 1 - FIELDS.length;
        boolean isOfFields = name > from && isAt(FIELDS, line, name) && closing(line, brace, last) == last - 1;
        return isOfFields && write(line, from, last - 1, brace + 1 < last - 1, "", "}}", to);
    }

    private boolean write(
            byte[] line, int from, int end, boolean hasBefore, String before, String after, ByteArrayOutputStream to) {
        to.write(line, from, end - from);
        if (hasBefore) {
            to.write(',');
        }
        to.writeBytes(before.getBytes(StandardCharsets.US_ASCII));
        to.writeBytes(member);
        to.writeBytes(after.getBytes(StandardCharsets.US_ASCII));
        return true;
    }

    /** Returns whether a line begins as Graphema JSON does. */
    static boolean isOwn(byte[] line, int from, int end) {
        return end - from > LEVEL_AT + LEVEL.length && isAt(OWN, line, from) && isAt(LEVEL, line, from + LEVEL_AT);
    }

    private static boolean isAt(byte[] expected, byte[] line, int at) {
        for (int i = 0; i < expected.length; i++) {
            if (line[at + i] != expected[i]) {
                return false;
            }
        }
        return true;
    }

    private static int indexOf(byte[] line, int from, int end, char wanted) {
        for (int i = from; i < end; i++) {
            if (line[i] == wanted) {
                return i;
            }
        }
        return -1;
    }

    /** Returns where an object is closed; -1 if it is not. */
    private static int closing(byte[] line, int brace, int end) {
        int depth = 0;
        boolean isText = false;
        for (int i = brace; i < end; i++) {
            byte b = line[i];
            if (isText) {
                i += b == '\\' ? 1 : 0;
                isText = b != '"';
            } else if (b == '"') {
                isText = true;
            } else if (b == '{') {
                depth++;
            } else if (b == '}' && --depth == 0) {
                return i;
            }
        }
        return -1;
    }
}
