package dev.graphema.kafka;

import dev.graphema.batch.BatchSink;
import dev.graphema.condition.Name;
import dev.graphema.option.Option;
import dev.graphema.option.Options;
import dev.graphema.sink.Sink;
import dev.graphema.sink.SinkContext;
import dev.graphema.sink.SinkKind;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/**
 * Writes events into a topic of Kafka, one record each: a line as the value, a field as the key, and the trace as the header {@code
 * traceparent} (W3C Trace Context). All replicas have a record before it counts as written, and the client's own retries do not
 * repeat it. A record that is too large for the topic is lost and counted; anything else waits until the brokers accept it.
 */
public final class KafkaKind implements SinkKind {
    public static final Option<String> SERVERS = Option.of(
                    "servers",
                    "addresses such as broker-1:9092,broker-2:9092",
                    text -> text.matches("\\s*[^\\s,]+:[0-9]{1,5}\\s*(,\\s*[^\\s,]+:[0-9]{1,5}\\s*)*") ? text : null,
                    text -> text)
            .required()
            .meaning("some brokers, from which the others are known");
    public static final Option<String> TOPIC = Option.of(
                    "topic",
                    "a topic's name of letters, digits, ., _ and -",
                    text -> text.matches("[A-Za-z0-9._-]{1,249}") ? text : null,
                    text -> text)
            .required()
            .meaning("the topic, which should exist");
    public static final Option<String> KEY = Option.text("key", "a field's name")
            .standard("trace")
            .meaning(
                    "the field whose value is the key: events with the same one are in the same partition, in order. An event"
                            + " without it has its id as the key");
    public static final Option<Map<String, String>> CLIENT = Option.names(
                    Option.text("client", "a setting of Kafka's client").secret())
            .standard(Map.of(), "none")
            .secret()
            .meaning("further settings of Kafka's producer, such as `security.protocol: SASL_SSL`");
    public static final Option<Duration> TIMEOUT = Option.duration("timeout")
            .standard(Duration.ofSeconds(10), "10s")
            .meaning("the longest duration of an attempt");

    @Override
    public String name() {
        return "kafka";
    }

    @Override
    public String meaning() {
        return "a topic of Kafka, one record for each event";
    }

    @Override
    public List<Option<?>> options() {
        List<Option<?>> options = new ArrayList<>(List.of(SERVERS, TOPIC, KEY, CLIENT, TIMEOUT));
        options.addAll(BatchSink.OPTIONS);
        return options;
    }

    @Override
    public String usualFormat() {
        return "json";
    }

    @Override
    public boolean mayRepeat() {
        return true;
    }

    @Override
    public void check(Options options) {
        settings(options).check();
    }

    private static ProducerSettings settings(Options options) {
        return new ProducerSettings(options.get(SERVERS), options.get(CLIENT), options.get(TIMEOUT));
    }

    @Override
    public Sink open(Options options, SinkContext context) {
        Records records = new Records(options.get(TOPIC), Name.of(options.get(KEY)), context.format());
        return BatchSink.open(
                new TopicTransmitter(settings(options)::open, records, options.get(TIMEOUT)), options, context);
    }

    @Override
    public String toString() {
        return name();
    }
}
