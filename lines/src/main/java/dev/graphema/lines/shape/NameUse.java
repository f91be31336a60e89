package dev.graphema.lines.shape;

/**
 * A name in the first lines of a log.
 *
 * @param name the name; a dot separates groups
 * @param attribute what it is read as; null for a field
 * @param isByValues whether only its values show that
 * @param lines the number of lines with it
 * @param example its first value, as text
 */
public record NameUse(String name, LineAttribute attribute, boolean isByValues, long lines, String example) {}
