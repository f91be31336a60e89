package dev.graphema.kafka;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.batch.EventBatch;
import dev.graphema.condition.Name;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.format.JsonLines;
import dev.graphema.settings.SettingsException;
import dev.graphema.settings.SettingsFile;
import dev.graphema.sink.RefusedException;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import org.apache.kafka.clients.producer.MockProducer;
import org.apache.kafka.clients.producer.ProducerRecord;
import org.apache.kafka.common.errors.ProducerFencedException;
import org.apache.kafka.common.errors.RecordTooLargeException;
import org.apache.kafka.common.errors.TimeoutException;
import org.apache.kafka.common.serialization.ByteArraySerializer;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The sink with a producer that only remembers what it is given. */
class KafkaSinkTest {
    private static final String TRACE = "4bf92f3577b34da6a3ce929d0e0e4736";
    private static final String SPAN = "00f067aa0ba902b7";
    private static final Duration TIMEOUT = Duration.ofSeconds(1);

    @TempDir
    private Path folder;

    private final List<MockProducer<byte[], byte[]>> producers = new ArrayList<>();
    private boolean isAnswering = true;

    private TopicTransmitter transmitter(String key) {
        return new TopicTransmitter(this::open, new Records("events", Name.of(key), new JsonLines(true)), TIMEOUT);
    }

    private MockProducer<byte[], byte[]> open() {
        ByteArraySerializer bytes = new ByteArraySerializer();
        producers.add(new MockProducer<>(isAnswering, null, bytes, bytes));
        return producers.get(producers.size() - 1);
    }

    private static Event event(String message) {
        return Draft.ofWritten()
                .level(Level.INFO)
                .service("booking")
                .message(message)
                .run("00000000000000a1")
                .sequence(7)
                .fields(to -> to.put("sailing", "BRK-0700"))
                .finish();
    }

    @Test
    void aRecordHasTheLineTheFieldAsItsKeyAndTheTraceAsAHeader() throws IOException {
        Event event = Draft.ofWritten()
                .level(Level.WARN)
                .service("booking")
                .message("lock wait")
                .trace(dev.graphema.trace.TraceId.parse(TRACE), dev.graphema.trace.SpanId.parse(SPAN), null)
                .run("00000000000000a1")
                .sequence(7)
                .finish();
        transmitter("trace").send(EventBatch.of(event));
        ProducerRecord<byte[], byte[]> record = producers.get(0).history().get(0);
        String value = new String(record.value(), StandardCharsets.UTF_8);
        assertEquals("events", record.topic());
        assertEquals(TRACE, new String(record.key(), StandardCharsets.US_ASCII));
        assertTrue(value.startsWith("{\"time\":") && value.endsWith("}"), value);
        assertTrue(value.contains("\"id\":\"00000000000000a1-7\""), value);
        assertArrayEquals(
                ("00-" + TRACE + "-" + SPAN + "-01").getBytes(StandardCharsets.US_ASCII),
                record.headers().lastHeader("traceparent").value());
        assertNull(record.timestamp(), "brokers refuse times that are too far away");
    }

    @Test
    void anEventWithoutTheFieldHasItsIdAsItsKeySoThatItIsInTheSamePartitionAgain() throws IOException {
        TopicTransmitter transmitter = transmitter("sailing");
        transmitter.send(EventBatch.of(event("hold refused")));
        transmitter("trace").send(EventBatch.of(event("hold refused")));
        assertEquals("BRK-0700", new String(producers.get(0).history().get(0).key(), StandardCharsets.UTF_8));
        assertEquals(
                "00000000000000a1-7",
                new String(producers.get(1).history().get(0).key(), StandardCharsets.US_ASCII));
    }

    @Test
    void onlyTheRecordThatIsTooLargeIsRefused() {
        TopicTransmitter transmitter = transmitter("trace");
        isAnswering = false;
        Thread broker = new Thread(() -> {
            while (producers.isEmpty() || producers.get(0).history().size() < 3) {
                Thread.onSpinWait();
            }
            producers.get(0).completeNext();
            producers.get(0).errorNext(new RecordTooLargeException("3000000 bytes"));
            producers.get(0).completeNext();
        });
        broker.start();
        RefusedException refused = assertThrows(
                RefusedException.class,
                () -> transmitter.send(EventBatch.of(event("one"), event("two"), event("three"))));
        assertEquals(1, refused.count());
    }

    @Test
    void aBrokerThatIsNotThereIsWaitedForOnceNotOncePerEvent() throws IOException {
        AtomicInteger sends = new AtomicInteger();
        TopicTransmitter transmitter = new TopicTransmitter(
                () -> new MockProducer<>(true, null, new ByteArraySerializer(), new ByteArraySerializer()) {
                    @Override
                    public synchronized java.util.concurrent.Future<org.apache.kafka.clients.producer.RecordMetadata>
                            send(ProducerRecord<byte[], byte[]> record) {
                        sends.incrementAndGet();
                        return java.util.concurrent.CompletableFuture.failedFuture(
                                new TimeoutException("Topic events not present in metadata after 1000 ms."));
                    }
                },
                new Records("events", Name.of("trace"), new JsonLines(true)),
                TIMEOUT);
        IOException problem = assertThrows(
                IOException.class, () -> transmitter.send(EventBatch.of(event("one"), event("two"), event("three"))));
        assertEquals(1, sends.get());
        assertTrue(
                problem.getMessage().endsWith("; check servers, and that the topic events exists"),
                problem.getMessage());
        transmitter.close();
    }

    @Test
    void aProducerThatCanNeverSendAgainIsReplaced() throws IOException {
        TopicTransmitter transmitter = transmitter("trace");
        transmitter.send(EventBatch.of(event("one")));
        producers.get(0).sendException = new ProducerFencedException("fenced");
        assertThrows(IOException.class, () -> transmitter.send(EventBatch.of(event("two"))));
        assertTrue(producers.get(0).closed());
        transmitter.send(EventBatch.of(event("two")));
        assertEquals(1, producers.get(1).history().size());
        transmitter.close();
        assertTrue(producers.get(1).closed());
    }

    @Test
    void wrongSettingsAreReportedWithTheirPlace() throws IOException {
        assertProblem(
                "{type: kafka, servers: broker, topic: events}",
                "expected addresses such as broker-1:9092,broker-2:9092");
        assertProblem(
                "{type: kafka, servers: 'a:9092', topic: events, client: {security.protocol: SOME}}",
                "security.protocol");
    }

    private void assertProblem(String sink, String expected) throws IOException {
        Path file = folder.resolve("graphema.yaml");
        Files.writeString(file, "sinks:\n  topic: " + sink + "\nroutes:\n  - {to: topic}\n");
        SettingsException problem = assertThrows(SettingsException.class, () -> SettingsFile.read(file));
        assertTrue(problem.getMessage().contains("graphema.yaml:2:"), problem.getMessage());
        assertTrue(problem.getMessage().contains(expected), problem.getMessage());
    }
}
