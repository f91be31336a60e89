package dev.graphema.kafka;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Assumptions;

/** Where Maven gathers the libraries of the broker. */
final class BrokerLibraries {
    private static final Path FOLDER =
            Path.of("../engines/kafka/target/libraries").toAbsolutePath().normalize();
    private static final String SKIPPED =
            "The tests with a broker of Kafka, and the module spark, are skipped: to run them, use mvn verify -Pengines";

    private BrokerLibraries() {}

    /** Returns the folder; without it, the calling tests are skipped. */
    static Path required() {
        if (!Files.isDirectory(FOLDER)) {
            System.out.println(SKIPPED);
        }
        Assumptions.assumeTrue(Files.isDirectory(FOLDER), SKIPPED);
        return FOLDER;
    }
}
