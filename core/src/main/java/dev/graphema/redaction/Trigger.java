package dev.graphema.redaction;

import java.util.ArrayList;
import java.util.List;

/**
 * What a text must contain at the least so that a detector need look at it. All triggers are answered by one pass over the
 * text.
 *
 * @param signs of which one must be there; none for no demand
 * @param digits how many digits there must be, of any script
 */
public record Trigger(List<Sign> signs, int digits) {
    /** Every text. */
    public static final Trigger ALWAYS = new Trigger(List.of(), 0);

    /**
     * One of some ASCII characters.
     *
     * @param behind the ASCII characters of which one must stand directly before it; empty for any or none
     * @param characters the characters
     */
    public record Sign(String behind, String characters) {
        /** @throws IllegalArgumentException when a character is not ASCII */
        public Sign {
            (behind + characters)
                    .chars()
                    .filter(c -> c >= Redactor.ASCII)
                    .findFirst()
                    .ifPresent(c -> {
                        throw new IllegalArgumentException("\"" + (char) c + "\" (expected: an ASCII character)");
                    });
        }
    }

    public Trigger {
        signs = List.copyOf(signs);
    }

    /** A text with one of these ASCII characters. */
    public static Trigger anyOf(String characters) {
        return digitsAndAnyOf(0, characters);
    }

    /** A text with one of these ASCII characters directly behind one of those. */
    public static Trigger pair(String first, String second) {
        return new Trigger(List.of(new Sign(first, second)), 0);
    }

    /** A text with so many digits. */
    public static Trigger digits(int fewest) {
        return new Trigger(List.of(), fewest);
    }

    /** A text with so many digits and one of these ASCII characters. */
    public static Trigger digitsAndAnyOf(int fewest, String characters) {
        return new Trigger(List.of(new Sign("", characters)), fewest);
    }

    /** A text with what either asks for, and as many digits as both do. */
    public Trigger or(Trigger other) {
        List<Sign> both = new ArrayList<>(signs);
        both.addAll(other.signs);
        return signs.isEmpty() || other.signs.isEmpty()
                ? digits(Math.min(digits, other.digits))
                : new Trigger(both, Math.min(digits, other.digits));
    }
}
