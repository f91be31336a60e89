package dev.graphema.sink;

import dev.graphema.option.Options;
import dev.graphema.option.Selectable;
import java.io.IOException;

/**
 * A kind of sink that settings can name. Custom kinds are found as services of this type ({@link
 * java.util.ServiceLoader}).
 */
public interface SinkKind extends Selectable {
    /** Returns the default format; null if the format is fixed. */
    default String usualFormat() {
        return null;
    }

    /**
     * Returns whether the output is for a person who reads the standard streams.
     *
     * @return false for files, connections and the like
     */
    default boolean isConsole() {
        return false;
    }

    /** Returns whether an event may be written twice after a failure, so that formats should contain its id. */
    default boolean mayRepeat() {
        return false;
    }

    /**
     * Checks rules across options, before any sink is opened.
     *
     * @throws IllegalArgumentException if a rule is violated; the message names it and the expected values
     */
    default void check(Options options) {}

    /**
     * Checks, as far as possible without opening anything, that a sink can be opened. Used for a sink that replaces
     * another one and is opened only after that has released its files. Creates and changes nothing.
     *
     * @throws IOException if a file or folder cannot be used
     */
    default void probe(Options options, SinkContext context) throws IOException {}

    /**
     * Opens a sink.
     *
     * @param options values of {@link #options}
     * @param context what the runtime provides
     * @throws IOException if a file or folder cannot be used
     */
    Sink open(Options options, SinkContext context) throws IOException;
}
