package dev.graphema.kafka;

import dev.graphema.condition.Name;
import dev.graphema.event.Event;
import dev.graphema.event.EventRecord;
import dev.graphema.format.Format;
import dev.graphema.text.Utf8Buffer;
import java.nio.charset.StandardCharsets;
import org.apache.kafka.clients.producer.ProducerRecord;

/**
 * Turns events into records.
 *
 * @param topic the topic
 * @param key the field whose value is the key; the id of an event that does not have it
 * @param format of the value
 */
record Records(String topic, Name key, Format format) {
    private static final String TRACE_HEADER = "traceparent";

    ProducerRecord<byte[], byte[]> of(EventRecord encoded) {
        Utf8Buffer line = new Utf8Buffer(512);
        format.write(encoded, line);
        int length = line.length() - 1; // a record needs no line end
        byte[] value = new byte[length];
        line.view().get(value);
        Event event = encoded.event();
        // Without a key, an event that is sent again would be in another partition, where another collector may store
        // it once more.
        Object keyed = key.value(event) == null ? event.id() : key.value(event);
        ProducerRecord<byte[], byte[]> record = new ProducerRecord<>(
                topic, keyed == null ? null : keyed.toString().getBytes(StandardCharsets.UTF_8), value);
        if (event.trace() != null && event.span() != null) {
            String header = "00-" + event.trace() + "-" + event.span() + "-01";
            record.headers().add(TRACE_HEADER, header.getBytes(StandardCharsets.US_ASCII));
        }
        return record;
    }
}
