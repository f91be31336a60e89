package dev.graphema.kafka.broker;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Assumptions;

/** Where Maven gathers the libraries of the broker. */
public final class BrokerLibraries {
    private static final Path FOLDER = Path.of("broker/target/libraries").toAbsolutePath();
    private static final String SKIPPED =
            "the tests with a broker of Kafka are skipped: run them with mvn verify -Pengines";

    private BrokerLibraries() {}

    /** Returns the folder; without it, the calling tests are skipped. */
    public static Path required() {
        if (!Files.isDirectory(FOLDER)) {
            System.out.println(SKIPPED);
        }
        Assumptions.assumeTrue(Files.isDirectory(FOLDER), SKIPPED);
        return FOLDER;
    }
}
