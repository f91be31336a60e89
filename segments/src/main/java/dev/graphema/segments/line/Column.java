package dev.graphema.segments.line;

/**
 * The values of one kind under one name.
 *
 * @param path the names from the outermost object on, with U+0000 between them; as bytes of the line, with escapes
 * @param kind the kind of the values
 */
public record Column(String path, Kind kind) {
    /** Separates the names of a path. A name cannot contain it, since JSON escapes it. */
    public static final char SEPARATOR = '\0';

    @Override
    public String toString() {
        return path.replace(SEPARATOR, '.') + " " + kind;
    }
}
