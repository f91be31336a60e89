package dev.graphema.sink;

import dev.graphema.format.Format;
import java.nio.file.Path;

/**
 * What a sink gets from its runtime when it is opened.
 *
 * @param name the sink's name in the settings
 * @param service the service's name, or null
 * @param instance the instance's name, or null
 * @param format how events look; null for a kind whose form is fixed
 * @param spool the folder that is this sink's own, for what cannot be written at once; not made yet
 * @param spoolTotal how many bytes may lie there
 * @param health where the sink notes what it had taken and cannot pass on, and what goes wrong
 */
public record SinkContext(
        String name, String service, String instance, Format format, Path spool, long spoolTotal, SinkHealth health) {
    /** The text with {@code {service}} and {@code {instance}} replaced by the names. */
    public String named(String text) {
        return named(text, service, instance);
    }

    /** The text with {@code {service}} and {@code {instance}} replaced by the names, made harmless in a path. */
    public static String named(String text, String service, String instance) {
        return text.replace("{service}", plain(service, "service")).replace("{instance}", plain(instance, "instance"));
    }

    /** The name without what would lead into another folder. */
    private static String plain(String name, String otherwise) {
        return name == null ? otherwise : name.replaceAll("[/\\\\:]", "_");
    }
}
