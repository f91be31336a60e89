package dev.graphema.kafka;

import java.time.Duration;
import java.util.HashMap;
import java.util.Map;
import org.apache.kafka.clients.producer.KafkaProducer;
import org.apache.kafka.clients.producer.Producer;
import org.apache.kafka.clients.producer.ProducerConfig;
import org.apache.kafka.common.config.ConfigException;
import org.apache.kafka.common.serialization.ByteArraySerializer;

/**
 * How a producer is started.
 *
 * @param servers addresses of brokers
 * @param client further settings, which replace the usual ones
 * @param timeout the longest duration of an attempt
 */
record ProducerSettings(String servers, Map<String, String> client, Duration timeout) {
    /** A batch of events is sent at once: this is only for the rest of it. */
    private static final int LINGER_MILLIS = 2;

    /**
     * Checks the settings.
     *
     * @throws IllegalArgumentException if one has a value that the client does not accept, or there is no client
     */
    void check() {
        try {
            new ProducerConfig(all());
        } catch (ConfigException e) {
            throw new IllegalArgumentException("client: " + e.getMessage(), e);
        } catch (LinkageError e) {
            throw new IllegalArgumentException(
                    "Kafka's client is missing, or a library that it needs (" + e.getMessage()
                            + "): add org.apache.kafka:kafka-clients with all its dependencies",
                    e);
        }
    }

    Producer<byte[], byte[]> open() {
        return new KafkaProducer<>(all());
    }

    private Map<String, Object> all() {
        Map<String, Object> all = new HashMap<>();
        all.put(ProducerConfig.CLIENT_ID_CONFIG, "graphema");
        all.put(ProducerConfig.COMPRESSION_TYPE_CONFIG, "zstd");
        all.put(ProducerConfig.LINGER_MS_CONFIG, LINGER_MILLIS);
        all.put(ProducerConfig.METRIC_REPORTER_CLASSES_CONFIG, "");
        all.putAll(client);
        all.put(ProducerConfig.BOOTSTRAP_SERVERS_CONFIG, servers);
        all.put(ProducerConfig.ACKS_CONFIG, "all");
        all.put(ProducerConfig.ENABLE_IDEMPOTENCE_CONFIG, true);
        int millis = (int) Math.min(Integer.MAX_VALUE, Math.max(LINGER_MILLIS + 2, timeout.toMillis()));
        all.put(ProducerConfig.MAX_BLOCK_MS_CONFIG, millis);
        all.put(ProducerConfig.DELIVERY_TIMEOUT_MS_CONFIG, millis);
        all.put(ProducerConfig.REQUEST_TIMEOUT_MS_CONFIG, millis - LINGER_MILLIS - 1);
        all.put(ProducerConfig.KEY_SERIALIZER_CLASS_CONFIG, ByteArraySerializer.class);
        all.put(ProducerConfig.VALUE_SERIALIZER_CLASS_CONFIG, ByteArraySerializer.class);
        return all;
    }
}
