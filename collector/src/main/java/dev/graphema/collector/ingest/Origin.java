package dev.graphema.collector.ingest;

/**
 * Where lines come from.
 *
 * @param source the sender: the name of its token, or of what is followed; null for unknown
 * @param environment its environment, such as {@code production}; null for unknown
 * @param place of lines of a followed file, up to where they are in it; else null
 */
public record Origin(String source, String environment, FilePlace place) {
    /** Creates the origin of what is sent. */
    public Origin(String source, String environment) {
        this(source, environment, null);
    }
}
