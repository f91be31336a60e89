package dev.graphema.collector.input;

import java.nio.file.Path;
import java.time.Duration;
import java.util.Objects;

/**
 * A topic of a message broker that a collector reads. Collectors with the same group share its partitions.
 *
 * @param servers where to find the broker: {@code broker-1:9092,broker-2:9092}
 * @param name the name of the topic
 * @param group the name of the group
 * @param client a properties file with further settings of the broker's client, such as credentials; null for none
 * @param takeover how long the partitions of a collector that has ended wait for its return before another one reads them
 * @param source the name in {@code collector.source}; null for the name of the topic
 * @param environment the environment of its events; null for that of the collector
 */
public record Topic(
        String servers, String name, String group, Path client, Duration takeover, String source, String environment) {
    /** The usual name of the group. */
    public static final String GROUP = "graphema";

    /** The usual time until another collector reads the partitions. */
    public static final Duration TAKEOVER = Duration.ofMinutes(2);

    public Topic {
        Objects.requireNonNull(servers, "servers");
        Objects.requireNonNull(name, "name");
        Objects.requireNonNull(group, "group");
        Objects.requireNonNull(takeover, "takeover");
    }
}
