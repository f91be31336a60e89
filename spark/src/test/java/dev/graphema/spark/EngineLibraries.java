package dev.graphema.spark;

import java.nio.file.Path;

/** Where Maven gathers the libraries of programs that tests start. */
final class EngineLibraries {
    static final Path SPARK = of("spark");
    static final Path KAFKA = of("kafka");

    private EngineLibraries() {}

    private static Path of(String engine) {
        return Path.of("../engines", engine, "target/libraries")
                .toAbsolutePath()
                .normalize();
    }
}
