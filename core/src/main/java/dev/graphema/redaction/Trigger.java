package dev.graphema.redaction;

import java.util.ArrayList;
import java.util.List;

/**
 * What a text must contain so that a detector can find something in it. One pass over a text evaluates all triggers.
 *
 * @param signs of which one is required; empty for none
 * @param digits the required number of digits, of any script
 */
public record Trigger(List<Sign> signs, int digits) {
    /** Accepts every text. */
    public static final Trigger ALWAYS = new Trigger(List.of(), 0);

    /**
     * An ASCII character.
     *
     * @param behind ASCII characters, one of which must directly precede it; empty for any or none
     * @param characters the characters
     */
    public record Sign(String behind, String characters) {
        /** @throws IllegalArgumentException if a character is not ASCII */
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

    /** Requires one of these ASCII characters. */
    public static Trigger anyOf(String characters) {
        return digitsAndAnyOf(0, characters);
    }

    /** Requires one of these ASCII characters directly after one of those. */
    public static Trigger pair(String first, String second) {
        return new Trigger(List.of(new Sign(first, second)), 0);
    }

    /** Requires a number of digits. */
    public static Trigger digits(int fewest) {
        return new Trigger(List.of(), fewest);
    }

    /** Requires a number of digits and one of these ASCII characters. */
    public static Trigger digitsAndAnyOf(int fewest, String characters) {
        return new Trigger(List.of(new Sign("", characters)), fewest);
    }

    /** Requires what either requires, and the smaller number of digits. */
    public Trigger or(Trigger other) {
        List<Sign> both = new ArrayList<>(signs);
        both.addAll(other.signs);
        return signs.isEmpty() || other.signs.isEmpty()
                ? digits(Math.min(digits, other.digits))
                : new Trigger(both, Math.min(digits, other.digits));
    }
}
