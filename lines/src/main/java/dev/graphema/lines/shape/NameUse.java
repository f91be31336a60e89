package dev.graphema.lines.shape;

/**
 * A name in the first lines of a log.
 *
 * @param name the name; a dot separates groups
 * @param attribute what it is read as; null for a field
 * @param reason why it is read as this attribute; null for a field
 * @param lines the number of lines with it
 * @param example its first value, as text
 */
public record NameUse(String name, LineAttribute attribute, Reason reason, long lines, String example) {
    /** Why a value is read as an attribute. */
    public enum Reason {
        /** Its name has this meaning, or the user has defined it. */
        NAME,
        /** All its values leave no doubt. */
        VALUES,
        /** Its place in the line, which has no names. */
        PLACE
    }
}
