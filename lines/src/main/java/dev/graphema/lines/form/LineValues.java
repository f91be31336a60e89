package dev.graphema.lines.form;

/** Receives the values of a line. */
interface LineValues {
    /** Starts a line; what was received of one that was not ended is void. */
    default void begin() {}

    /**
     * Receives a value.
     *
     * @param name its name
     * @param value text, a number, a boolean, a duration, a list, a group as a map, or null
     */
    void take(String name, Object value);

    /** Receives a part of the line that has no name and is not the message. */
    void rest(String text);

    /** Receives what is wrong with the line. */
    void damaged(LineDamage damage);
}
