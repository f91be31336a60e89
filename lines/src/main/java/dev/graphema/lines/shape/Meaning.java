package dev.graphema.lines.shape;

/**
 * The meaning of a name in a line.
 *
 * @param attribute the attribute; null for a field
 * @param rank of several names of the same attribute, the one with the lowest rank is used: below {@value #CERTAIN} if
 *     the name has exactly this meaning, below {@value #LOOSE} if it is composed of such words, and higher if only the value
 *     can decide
 */
public record Meaning(LineAttribute attribute, int rank) {
    /** Names of lower ranks have exactly one meaning. */
    static final int CERTAIN = 10;

    /** Names of this or a higher rank are ambiguous: the value must leave no doubt. */
    static final int LOOSE = 30;

    /** A field that is not an attribute. */
    public static final Meaning FIELD = new Meaning(null, 0);

    /** Returns whether the name is that of a field. */
    public boolean isField() {
        return attribute == null;
    }

    /** Returns whether the name has exactly one meaning, so that a value of another kind is an error. */
    public boolean isCertain() {
        return rank < CERTAIN;
    }

    /** Returns whether only a value without doubt has this meaning. */
    public boolean isLoose() {
        return rank >= LOOSE;
    }
}
