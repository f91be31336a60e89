package dev.graphema.format;

import dev.graphema.option.Options;
import dev.graphema.option.Selectable;

/**
 * A kind of format that settings can name. Others than the ready ones are found as services of this type ({@link
 * java.util.ServiceLoader}).
 */
public interface FormatKind extends Selectable {
    /**
     * Makes the format.
     *
     * @param options values of {@link #options}
     * @param destination where its output goes
     * @throws IllegalArgumentException when the options cannot be met there; the message says why and what to do
     */
    Format make(Options options, Destination destination);
}
