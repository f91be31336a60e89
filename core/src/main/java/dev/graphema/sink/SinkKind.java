package dev.graphema.sink;

import dev.graphema.option.Options;
import dev.graphema.option.Selectable;
import java.io.IOException;

/**
 * A kind of sink that settings can name. Others than the ready ones are found as services of this type ({@link
 * java.util.ServiceLoader}).
 */
public interface SinkKind extends Selectable {
    /** The format that such a sink has when none is chosen; null when its form is fixed. */
    default String usualFormat() {
        return null;
    }

    /**
     * Whether the formats are for a person who looks at the process's own streams.
     *
     * @return false for files, connections and the like
     */
    default boolean isConsole() {
        return false;
    }

    /** Whether an event may be written twice when something breaks, so that a format should tell its id. */
    default boolean mayRepeat() {
        return false;
    }

    /**
     * Checks rules across options, before any sink is opened.
     *
     * @throws IllegalArgumentException when one is broken; the message says which, and what was expected
     */
    default void check(Options options) {}

    /**
     * Checks, as far as that is possible without opening anything, that a sink can be opened: for one that replaces another
     * and is opened only when that has given back its files. Nothing is made or changed.
     *
     * @throws IOException when a file or folder cannot be used
     */
    default void probe(Options options, SinkContext opening) throws IOException {}

    /**
     * Opens a sink.
     *
     * @param options values of {@link #options}
     * @param opening what the sink gets from its runtime
     * @throws IOException when a file or folder cannot be used
     */
    Sink open(Options options, SinkContext opening) throws IOException;
}
