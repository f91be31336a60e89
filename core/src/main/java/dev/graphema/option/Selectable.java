package dev.graphema.option;

import java.util.List;

/** A kind that settings select by name, with values for its options. */
public interface Selectable extends Named {
    /** Returns a short description for the documentation. */
    String meaning();

    /** Returns the options. */
    default List<Option<?>> options() {
        return List.of();
    }
}
