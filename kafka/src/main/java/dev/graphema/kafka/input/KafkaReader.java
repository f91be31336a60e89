package dev.graphema.kafka.input;

import dev.graphema.collector.input.RecordReceiver;
import dev.graphema.collector.input.Topic;
import dev.graphema.collector.input.TopicReader;
import java.io.Closeable;
import java.io.IOException;
import java.io.Reader;
import java.nio.file.Files;
import java.util.HashMap;
import java.util.Map;
import java.util.Properties;
import java.util.function.Consumer;
import java.util.function.Supplier;
import org.apache.kafka.clients.consumer.ConsumerConfig;
import org.apache.kafka.clients.consumer.KafkaConsumer;
import org.apache.kafka.clients.consumer.RangeAssignor;
import org.apache.kafka.common.config.ConfigException;
import org.apache.kafka.common.serialization.ByteArrayDeserializer;

/** Reads topics of Kafka. */
public final class KafkaReader implements TopicReader {
    /** Created by the service loader. */
    public KafkaReader() {
        // nothing is opened yet
    }

    @Override
    public Closeable read(Topic topic, String member, RecordReceiver receiver, Consumer<String> problems)
            throws IOException {
        Map<String, Object> settings;
        try {
            settings = settings(topic, member);
            new ConsumerConfig(settings);
        } catch (ConfigException e) {
            throw new IOException("the topic " + topic.name() + " cannot be read: " + e.getMessage(), e);
        } catch (LinkageError e) {
            throw new IOException(
                    "the topic " + topic.name()
                            + " cannot be read: Kafka's client is missing, or a library that it needs ("
                            + e.getMessage() + "); name the folder of Kafka's libraries with --with",
                    e);
        }
        Supplier<org.apache.kafka.clients.consumer.Consumer<byte[], byte[]>> opening =
                () -> new KafkaConsumer<>(settings);
        return TopicReading.start(topic.name(), opening, receiver, problems);
    }

    private static Map<String, Object> settings(Topic topic, String member) throws IOException {
        Map<String, Object> all = new HashMap<>();
        // A fetch is in memory three times at most: as it comes, as records, and as lines.
        all.put(ConsumerConfig.FETCH_MAX_BYTES_CONFIG, 8 * 1024 * 1024);
        all.put(ConsumerConfig.MAX_POLL_RECORDS_CONFIG, 5_000);
        all.put(ConsumerConfig.METADATA_MAX_AGE_CONFIG, 10_000); // new partitions are read after this time
        all.put(ConsumerConfig.METRIC_REPORTER_CLASSES_CONFIG, "");
        all.put(ConsumerConfig.CLIENT_ID_CONFIG, "graphema-" + member);
        if (topic.client() != null) {
            Properties given = new Properties();
            try (Reader file = Files.newBufferedReader(topic.client())) {
                given.load(file);
            } catch (IllegalArgumentException e) {
                throw new IOException(topic.client() + " is not a properties file: " + e.getMessage(), e);
            }
            given.stringPropertyNames().forEach(name -> all.put(name, given.getProperty(name)));
        }
        all.put(ConsumerConfig.BOOTSTRAP_SERVERS_CONFIG, topic.servers());
        all.put(ConsumerConfig.GROUP_ID_CONFIG, topic.group());
        // What is stored and not yet committed is read again by the same collector, which recognises it, and not by
        // another one.
        all.put(ConsumerConfig.GROUP_PROTOCOL_CONFIG, "classic");
        all.put(ConsumerConfig.GROUP_INSTANCE_ID_CONFIG, member);
        all.put(ConsumerConfig.SESSION_TIMEOUT_MS_CONFIG, (int) topic.takeover().toMillis());
        // The same members always have the same partitions, also when all of them start again.
        all.put(ConsumerConfig.PARTITION_ASSIGNMENT_STRATEGY_CONFIG, RangeAssignor.class.getName());
        all.put(ConsumerConfig.ENABLE_AUTO_COMMIT_CONFIG, false);
        all.put(ConsumerConfig.ALLOW_AUTO_CREATE_TOPICS_CONFIG, false);
        all.put(ConsumerConfig.KEY_DESERIALIZER_CLASS_CONFIG, ByteArrayDeserializer.class);
        all.put(ConsumerConfig.VALUE_DESERIALIZER_CLASS_CONFIG, ByteArrayDeserializer.class);
        // What was deleted before it was read must not be passed over in silence.
        all.put(ConsumerConfig.AUTO_OFFSET_RESET_CONFIG, "none");
        return all;
    }
}
