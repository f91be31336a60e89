package dev.graphema.option;

import java.util.List;

/** Something of which there are several, and of which settings name one, with values for its options. */
public interface Selectable {
    /** Its name in settings: small letters and hyphens. */
    String name();

    /** What it is, in a few words for documentation. */
    String meaning();

    /** What can be chosen about it. */
    default List<Option<?>> options() {
        return List.of();
    }
}
