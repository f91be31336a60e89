package dev.graphema.collector.ingest;

/**
 * Where lines come from.
 *
 * @param source the sender: the name of its token, or of what is followed; null for unknown
 * @param environment its environment, such as {@code production}; null for unknown
 */
public record Origin(String source, String environment) {}
