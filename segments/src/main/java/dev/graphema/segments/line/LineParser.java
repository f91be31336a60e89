package dev.graphema.segments.line;

import dev.graphema.lines.json.JsonTime;
import dev.graphema.lines.json.LinePrefix;
import dev.graphema.lines.json.Utf8;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * Divides a line in Graphema JSON into its shape and its values. It accepts only the form that Graphema writes, without
 * blanks, and with each value in its canonical form, so that the line can be assembled again byte by byte. Used for one
 * line after the other; for one thread.
 */
public final class LineParser {
    private static final int DEEPEST = 32;
    private static final int MOST_VALUES = 1_000;
    private static final int MOST_DIGITS = 18;
    private static final byte[] FAILURE = "failure".getBytes(StandardCharsets.US_ASCII);

    private final JsonTime time = new JsonTime();
    private byte[] bytes;
    private int at;
    private int end;

    // The line without its values, each of which is replaced by a byte that no JSON has there: its kind.
    private byte[] skeleton = new byte[1024];
    private int skeletonLength;
    private int copiedTo;

    private int values;
    private int[] from = new int[64];
    private int[] to = new int[64];
    private Kind[] kinds = new Kind[64];

    /** Of values that are times, in nanoseconds since 1970. */
    private long[] times = new long[64];

    /**
     * Parses a line.
     *
     * @param to the end of the line, without its line feed
     * @return false if it is not in the form that Graphema writes; it must be kept unchanged
     */
    public boolean parse(byte[] line, int from, int to) {
        bytes = line;
        at = from;
        end = to;
        values = 0;
        skeletonLength = 0;
        copiedTo = from;
        if (!LinePrefix.isOwn(line, from, to) || !Utf8.isValid(line, from, to) || !object(0) || at != end) {
            return false;
        }
        copyTo(end);
        return values > 0 && kinds[0] == Kind.TIME;
    }

    /** Returns the number of values. */
    public int values() {
        return values;
    }

    public Kind kind(int value) {
        return kinds[value];
    }

    /** Returns the index of the first byte of a value. */
    public int from(int value) {
        return from[value];
    }

    /** Returns the index behind the last byte of a value. */
    public int to(int value) {
        return to[value];
    }

    /** Returns a value that is a time, in nanoseconds since 1970. */
    public long time(int value) {
        return times[value];
    }

    /** Returns the line without its values, each of which is replaced by one byte: its kind. Valid until the next line. */
    byte[] skeleton() {
        return skeleton;
    }

    int skeletonLength() {
        return skeletonLength;
    }

    private boolean object(int depth) {
        if (depth > DEEPEST || !take('{')) {
            return false;
        }
        if (take('}')) {
            return true;
        }
        do {
            int name = at + 1;
            if (!text() || !take(':')) {
                return false;
            }
            boolean isFailure = depth == 0 && isName(name, FAILURE);
            if (!(isFailure ? json() : value(depth))) {
                return false;
            }
        } while (take(','));
        return take('}');
    }

    private boolean isName(int name, byte[] expected) {
        return Arrays.equals(bytes, name, Math.min(end, name + expected.length), expected, 0, expected.length)
                && bytes[name + expected.length] == '"';
    }

    private boolean value(int depth) {
        if (at >= end) {
            return false;
        }
        return switch (bytes[at]) {
            case '{' -> object(depth + 1);
            case '[' -> json();
            case '"' -> quoted();
            case 't' -> literal("true");
            case 'f' -> literal("false");
            case 'n' -> literal("null");
            default -> number();
        };
    }

    private boolean quoted() {
        int begin = at + 1;
        if (!text()) {
            return false;
        }
        int behind = at - 1;
        int length = behind - begin;
        Kind kind = Kind.TEXT;
        if (length == JsonTime.LENGTH + 1 && time.isAt(bytes, begin) && bytes[behind - 1] == 'Z') {
            kind = Kind.TIME;
        } else if ((length == 32 || length == 16) && isHex(begin, behind)) {
            kind = Kind.ID;
        }
        return add(kind, begin, behind);
    }

    private boolean isHex(int begin, int behind) {
        for (int i = begin; i < behind; i++) {
            byte b = bytes[i];
            if ((b < '0' || b > '9') && (b < 'a' || b > 'f')) {
                return false;
            }
        }
        return true;
    }

    private boolean number() {
        int begin = at;
        boolean isWhole = skipNumber();
        int length = at - begin;
        if (length == 0) {
            return false;
        }
        int digits = bytes[begin] == '-' ? length - 1 : length;
        boolean isNegativeZero = bytes[begin] == '-' && isWhole && bytes[begin + 1] == '0';
        return add(isWhole && digits <= MOST_DIGITS && !isNegativeZero ? Kind.INTEGER : Kind.JSON, begin, at);
    }

    /**
     * Steps over a number as RFC 8259 defines it; not at all if there is none.
     *
     * @return whether it is a whole number without an exponent
     */
    private boolean skipNumber() {
        int begin = at;
        take('-');
        int whole = digits();
        if (whole == 0 || whole > 1 && bytes[at - whole] == '0') {
            at = begin;
            return false;
        }
        boolean isWhole = true;
        if (take('.')) {
            isWhole = false;
            if (digits() == 0) {
                at = begin;
                return false;
            }
        }
        if (at < end && (bytes[at] | 0x20) == 'e') {
            isWhole = false;
            at++;
            if (!take('-')) {
                take('+');
            }
            if (digits() == 0) {
                at = begin;
            }
        }
        return isWhole;
    }

    private int digits() {
        int begin = at;
        while (at < end && bytes[at] >= '0' && bytes[at] <= '9') {
            at++;
        }
        return at - begin;
    }

    /** A list or an object as one value. */
    private boolean json() {
        int begin = at;
        return skip(0) && add(Kind.JSON, begin, at);
    }

    private boolean skip(int depth) {
        if (depth > DEEPEST || at >= end) {
            return false;
        }
        return switch (bytes[at]) {
            case '{' -> skipAll(depth, '{', '}', true);
            case '[' -> skipAll(depth, '[', ']', false);
            case '"' -> text();
            case 't' -> literal("true");
            case 'f' -> literal("false");
            case 'n' -> literal("null");
            default -> {
                int begin = at;
                skipNumber();
                yield at > begin;
            }
        };
    }

    private boolean skipAll(int depth, char open, char close, boolean isNamed) {
        take(open);
        if (take(close)) {
            return true;
        }
        do {
            if (isNamed && (!text() || !take(':')) || !skip(depth + 1)) {
                return false;
            }
        } while (take(','));
        return take(close);
    }

    /** Steps over a text with its quotes. */
    private boolean text() {
        if (!take('"')) {
            return false;
        }
        while (at < end) {
            byte b = bytes[at++];
            if (b == '"') {
                return true;
            }
            if (b >= 0 && b < ' ') {
                return false;
            }
            if (b == '\\' && !escape()) {
                return false;
            }
        }
        return false;
    }

    private boolean escape() {
        if (at >= end) {
            return false;
        }
        byte b = bytes[at++];
        if (b != 'u') {
            return "\"\\/bfnrt".indexOf(b) >= 0;
        }
        if (end - at < 4) {
            return false;
        }
        for (int i = 0; i < 4; i++) {
            if (Character.digit(bytes[at++], 16) < 0) {
                return false;
            }
        }
        return true;
    }

    private boolean literal(String word) {
        if (end - at < word.length()) {
            return false;
        }
        for (int i = 0; i < word.length(); i++) {
            if (bytes[at++] != word.charAt(i)) {
                return false;
            }
        }
        return true;
    }

    private boolean take(char wanted) {
        if (at >= end || bytes[at] != wanted) {
            return false;
        }
        at++;
        return true;
    }

    private boolean add(Kind kind, int begin, int behind) {
        if (values == MOST_VALUES) {
            return false;
        }
        if (values == from.length) {
            from = Arrays.copyOf(from, 2 * values);
            to = Arrays.copyOf(to, 2 * values);
            kinds = Arrays.copyOf(kinds, 2 * values);
            times = Arrays.copyOf(times, 2 * values);
        }
        if (kind == Kind.TIME) {
            times[values] = time.epochNanos(); // of the last one that was found
        }
        from[values] = begin;
        to[values] = behind;
        kinds[values++] = kind;
        copyTo(begin);
        room(1);
        skeleton[skeletonLength++] = (byte) kind.ordinal();
        copiedTo = behind;
        return true;
    }

    private void copyTo(int behind) {
        int count = behind - copiedTo;
        room(count);
        System.arraycopy(bytes, copiedTo, skeleton, skeletonLength, count);
        skeletonLength += count;
    }

    private void room(int more) {
        if (skeleton.length - skeletonLength < more) {
            skeleton = Arrays.copyOf(skeleton, Math.max(2 * skeleton.length, skeletonLength + more));
        }
    }
}
