package dev.graphema.option;

/** Something that settings select by name. */
public interface Named {
    /** Returns the name in settings: lower-case letters and hyphens. */
    String name();
}
