package dev.graphema.format;

import dev.graphema.option.Options;
import dev.graphema.option.Selectable;

/**
 * A kind of format that settings can name. Custom kinds are found as services of this type ({@link
 * java.util.ServiceLoader}).
 */
public interface FormatKind extends Selectable {
    /**
     * Creates a format.
     *
     * @param options values of {@link #options}
     * @param destination the destination of its output
     * @throws IllegalArgumentException if the options cannot be used for it; the message contains the reason and what
     *     to do
     */
    Format make(Options options, Destination destination);
}
