package dev.graphema.collector.topic;

import dev.graphema.collector.ingest.Intake;
import dev.graphema.collector.ingest.Origin;
import dev.graphema.collector.input.Topic;
import dev.graphema.collector.input.TopicReader;
import dev.graphema.text.Hex;
import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.util.ArrayList;
import java.util.List;
import java.util.ServiceLoader;
import java.util.function.Consumer;

/** The topics that a collector reads. Thread-safe. */
public final class Topics implements Closeable {
    /** The file of the store with the name by which the collector is known in its groups. */
    private static final String MEMBER_FILE = "member";

    private final List<Closeable> readings = new ArrayList<>();

    private Topics() {}

    /**
     * Begins to read.
     *
     * @param environment the environment of topics that have none; null for unknown
     * @param store the folder of the store
     * @param problems receives what the operator should know
     * @throws IOException if there is no {@link TopicReader}, or it cannot use the settings of a topic
     */
    public static Topics start(
            List<Topic> topics, String environment, Intake intake, Path store, Consumer<String> problems)
            throws IOException {
        Topics started = new Topics();
        if (topics.isEmpty()) {
            return started;
        }
        TopicReader reader = ServiceLoader.load(TopicReader.class)
                .findFirst()
                .orElseThrow(() -> new IOException(
                        "topics cannot be read: the library graphema-kafka is missing; name it, and the folder of its"
                                + " client's libraries, with --with"));
        String member = member(store);
        try {
            for (Topic each : topics) {
                Origin origin = new Origin(
                        each.source() == null ? each.name() : each.source(),
                        each.environment() == null ? environment : each.environment());
                started.readings.add(
                        reader.read(each, member, records -> intake.takeRecords(records, origin), problems));
            }
            return started;
        } catch (IOException e) {
            started.close();
            throw e;
        }
    }

    /** Returns the name of the collector, which remains the same as long as its store exists. */
    private static String member(Path store) throws IOException {
        Path file = store.resolve(MEMBER_FILE);
        if (!Files.exists(file)) {
            Path next = store.resolve(MEMBER_FILE + ".new");
            Files.writeString(next, Hex.digits(new SecureRandom().nextLong()));
            Files.move(next, file);
        }
        return Files.readString(file).strip();
    }

    @Override
    public void close() throws IOException {
        for (Closeable each : readings) {
            each.close();
        }
    }
}
