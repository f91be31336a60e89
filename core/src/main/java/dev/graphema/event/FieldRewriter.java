package dev.graphema.event;

/** Rewrites fields by their paths: the names of the enclosing groups and of the field, separated by dots. */
public interface FieldRewriter {
    /** Rewrites no field. */
    FieldRewriter NONE = new FieldRewriter() {
        @Override
        public boolean isAboutNames() {
            return false;
        }

        @Override
        public boolean matches(String path) {
            return false;
        }

        @Override
        public boolean removes(String path) {
            return false;
        }

        @Override
        public String value(String path, String value) {
            return value;
        }
    };

    /** Whether any field can be rewritten; if not, no paths are built. */
    boolean isAboutNames();

    /**
     * Whether a field with this name can be rewritten in any group. Called for every field of every event; false for
     * nearly all of them.
     */
    default boolean canMatch(String name) {
        return true;
    }

    /** Whether the field is rewritten; for a group or list, all its values are. */
    boolean matches(String path);

    /** Whether the field is also rewritten if it is a boolean; true by default. */
    default boolean matchesBoolean(String path) {
        return true;
    }

    /** Whether the field is removed. */
    boolean removes(String path);

    /** Returns the replacement of a value, which is given as text. */
    String value(String path, String value);
}
