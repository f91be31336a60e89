package dev.graphema.event;

/** Decides about fields by their paths: the names of the groups they stand in and their own, with dots between. */
public interface FieldRewriter {
    /** Means no field. */
    FieldRewriter NONE = new FieldRewriter() {
        @Override
        public boolean isAboutNames() {
            return false;
        }

        @Override
        public boolean isMeant(String path) {
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

    /** Whether any field can be meant; when not, paths are not made at all. */
    boolean isAboutNames();

    /**
     * Whether a field of that name can be meant, whatever groups it is in. Asked for every field of every event, without its
     * path; false for nearly all of them.
     */
    default boolean canBeMeant(String name) {
        return true;
    }

    /** Whether the field is meant; of a group or list, then everything in it is. */
    boolean isMeant(String path);

    /** Whether a field that is meant is so also when it is true or false; it is by default. */
    default boolean isMeantAsTruth(String path) {
        return true;
    }

    /** Whether a field that is meant goes as a whole. */
    boolean removes(String path);

    /** What stands in the place of a value that is meant, which is given as text. */
    String value(String path, String value);
}
