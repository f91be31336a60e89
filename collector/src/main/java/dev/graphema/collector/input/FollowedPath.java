package dev.graphema.collector.input;

import java.nio.file.Path;

/**
 * A file, or a folder with all logs below it, that is followed across rotation and restart.
 *
 * @param path it need not exist yet
 * @param source the name in {@code collector.source}; null for the name of the file
 * @param environment the environment of its events; null for that of the collector
 */
public record FollowedPath(Path path, String source, String environment) {
    public FollowedPath {
        path = path.toAbsolutePath().normalize();
    }
}
