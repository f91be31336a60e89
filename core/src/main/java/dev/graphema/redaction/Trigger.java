package dev.graphema.redaction;

/**
 * What a text must contain at the least so that a detector need look at it. All triggers are answered by one pass over the
 * text.
 *
 * @param below64 one bit for each character below 64, of which one must be there; 0 with {@code below128} 0 for no demand
 * @param below128 the same for the characters from 64 to 127
 * @param digits how many digits there must be, of any script
 */
public record Trigger(long below64, long below128, int digits) {
    /** Every text. */
    public static final Trigger ALWAYS = new Trigger(0, 0, 0);

    /** A text with one of these ASCII characters. */
    public static Trigger anyOf(String characters) {
        return digitsAndAnyOf(0, characters);
    }

    /** A text with so many digits. */
    public static Trigger digits(int fewest) {
        return digitsAndAnyOf(fewest, "");
    }

    /** A text with so many digits and one of these ASCII characters. */
    public static Trigger digitsAndAnyOf(int fewest, String characters) {
        long below64 = 0;
        long below128 = 0;
        for (int i = 0; i < characters.length(); i++) {
            char c = characters.charAt(i);
            if (c >= 128) {
                throw new IllegalArgumentException("\"" + c + "\" (expected: an ASCII character)");
            }
            below64 |= c < 64 ? 1L << c : 0;
            below128 |= c >= 64 ? 1L << c - 64 : 0;
        }
        return new Trigger(below64, below128, fewest);
    }

    /** Whether one of some characters must be there. */
    boolean asksForCharacters() {
        return (below64 | below128) != 0;
    }

    /** Whether this is one of them. */
    boolean asksFor(char c) {
        return ((c < 64 ? below64 >>> c : below128 >>> c - 64) & 1) != 0;
    }
}
