package dev.graphema.sink;

import dev.graphema.format.Format;
import java.nio.file.Path;

/**
 * What a runtime provides when it opens a sink.
 *
 * @param name the name of the sink in the settings
 * @param service the name of the service, or null
 * @param instance the name of the instance, or null
 * @param format the format; null for a kind with a fixed format
 * @param spool the folder of this sink for events that cannot be written immediately; not yet created
 * @param spoolTotal the most bytes in that folder
 * @param health records losses and errors of the sink
 */
public record SinkContext(
        String name, String service, String instance, Format format, Path spool, long spoolTotal, SinkHealth health) {
    /** Returns the text with {@code {service}} and {@code {instance}} replaced by the names. */
    public String named(String text) {
        return named(text, service, instance);
    }

    /**
     * Returns the text with {@code {service}} and {@code {instance}} replaced by the names, without characters that
     * separate folders.
     */
    public static String named(String text, String service, String instance) {
        return text.replace("{service}", plain(service, "service")).replace("{instance}", plain(instance, "instance"));
    }

    /** Returns the name without characters that separate folders. */
    private static String plain(String name, String otherwise) {
        return name == null ? otherwise : name.replaceAll("[/\\\\:]", "_");
    }
}
