package dev.graphema.kafka;

import static org.awaitility.Awaitility.await;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.Operation;
import dev.graphema.batch.BatchSink;
import dev.graphema.collector.Collector;
import dev.graphema.collector.CollectorOptions;
import dev.graphema.collector.input.Topic;
import dev.graphema.engines.Broker;
import dev.graphema.event.Event;
import dev.graphema.query.Question;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.remote.RemoteSource;
import dev.graphema.settings.SinkSettings;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Future;
import java.util.stream.IntStream;
import org.apache.kafka.clients.admin.Admin;
import org.apache.kafka.clients.admin.NewPartitions;
import org.apache.kafka.clients.admin.NewTopic;
import org.apache.kafka.clients.admin.RecordsToDelete;
import org.apache.kafka.clients.producer.KafkaProducer;
import org.apache.kafka.clients.producer.ProducerRecord;
import org.apache.kafka.common.KafkaFuture;
import org.apache.kafka.common.TopicPartition;
import org.apache.kafka.common.serialization.ByteArraySerializer;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/** The sink and the input of the collector with a real broker. */
@Timeout(600)
class KafkaTest {
    private static final Duration LIMIT = Duration.ofMinutes(2);
    private static final Duration TAKEOVER = Duration.ofSeconds(6);

    /** {@code -Devents=1000000} measures with more of them. */
    private static final int MANY = Integer.getInteger("events", 5_000);

    private static final int AT_ONCE = 5_000;

    @TempDir
    private static Path common;

    private static Broker broker;

    @TempDir
    private Path folder;

    private final List<String> problems = new CopyOnWriteArrayList<>();

    @BeforeAll
    static void startBroker() throws IOException {
        broker = Broker.start(BrokerLibraries.required(), common);
    }

    @AfterAll
    static void closeBroker() throws IOException {
        if (broker != null) {
            broker.close();
        }
    }

    private static <T> T done(KafkaFuture<T> future) throws IOException {
        try {
            return future.get();
        } catch (InterruptedException | ExecutionException e) {
            throw new IOException(e);
        }
    }

    private static Admin admin() {
        return Admin.create(Map.of("bootstrap.servers", broker.address()));
    }

    private static void create(String topic, int partitions) throws IOException {
        try (Admin admin = admin()) {
            done(admin.createTopics(List.of(new NewTopic(topic, partitions, (short) 1)))
                    .all());
        }
    }

    private Graphema graphema(String topic) {
        SinkSettings sink = SinkSettings.of(new KafkaKind())
                .set(KafkaKind.SERVERS, broker.address())
                .set(KafkaKind.TOPIC, topic)
                .set(KafkaKind.TIMEOUT, Duration.ofSeconds(2))
                .set(BatchSink.BATCH_WAIT, Duration.ofMillis(50))
                .set(BatchSink.RETRY_FIRST, Duration.ofMillis(50))
                .set(BatchSink.RETRY_LONGEST, Duration.ofMillis(500));
        return Graphema.isolated(settings ->
                settings.service("booking").spoolPath(folder.resolve("spool")).sink("topic", sink));
    }

    private static void emit(Graphema graphema, int from, int to) {
        Logger log = graphema.logger("skerry.booking");
        for (int i = from; i < to; i++) {
            int number = i;
            log.info("seat held", f -> f.put("number", number));
        }
    }

    private Topic topic(String name) {
        return new Topic(broker.address(), name, "graphema", null, TAKEOVER, null, null);
    }

    private Collector collector(String store, Topic topic) throws IOException {
        return Collector.start(CollectorOptions.usual(folder.resolve(store), problems::add)
                .port(0)
                .topic(topic));
    }

    private static List<Event> events(Collector collector) {
        List<Event> events = new ArrayList<>();
        try {
            QueryExecutor.read(
                    Question.all(), RemoteSource.at(collector.address(), null), Control.NONE, each -> events.add(each));
            return events;
        } catch (IOException e) {
            throw new IllegalStateException(e);
        }
    }

    private static void send(String topic, byte[]... values) throws IOException {
        ByteArraySerializer bytes = new ByteArraySerializer();
        try (KafkaProducer<byte[], byte[]> producer =
                new KafkaProducer<>(Map.of("bootstrap.servers", broker.address()), bytes, bytes)) {
            List<Future<?>> sent = new ArrayList<>();
            for (byte[] value : values) {
                sent.add(producer.send(new ProducerRecord<>(topic, null, value)));
            }
            for (Future<?> each : sent) {
                each.get();
            }
        } catch (InterruptedException | ExecutionException e) {
            throw new IOException(e);
        }
    }

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    private static List<Long> numbers(Collector... collectors) {
        List<Long> numbers = new ArrayList<>();
        for (Collector each : collectors) {
            events(each).forEach(event -> numbers.add(((Number) event.fields().get("number")).longValue()));
        }
        return numbers.stream().sorted().toList();
    }

    private static void awaitNumbers(int count, Collector... collectors) {
        List<Long> expected = IntStream.range(0, count).mapToObj(Long::valueOf).toList();
        await().atMost(LIMIT).until(() -> numbers(collectors).size() >= count);
        assertEquals(expected, numbers(collectors));
    }

    private void awaitProblem(String text) {
        await().atMost(LIMIT).until(() -> problems.stream().anyMatch(each -> each.contains(text)));
    }

    @Test
    void eventsGoThroughTheTopicIntoTheStore() throws IOException {
        create("through", 4);
        try (Collector collector = collector("store", topic("through"));
                Graphema graphema = graphema("through")) {
            Logger log = graphema.logger("skerry.booking");
            try (Operation operation = log.operation("hold seats")) {
                log.warn("lock wait", f -> f.put("lock_wait_ms", 812));
                operation.put("booking", "B0047113");
            }
            assertTrue(graphema.flush(LIMIT));
            await().atMost(LIMIT).until(() -> !events(collector).isEmpty());
            Event event = events(collector).get(0);
            assertEquals("lock wait", event.message());
            assertEquals("booking", event.service());
            assertEquals(812L, event.fields().get("lock_wait_ms"));
            assertEquals("through", event.fields().get("collector.source"));
            assertEquals(List.of(), problems);
        }
    }

    @Test
    void manyEventsGoThrough() throws IOException {
        create("many", 4);
        try (Graphema graphema = graphema("many")) {
            long begin = System.nanoTime();
            for (int from = 0; from < MANY; from += AT_ONCE) {
                emit(graphema, from, Math.min(MANY, from + AT_ONCE));
                assertTrue(graphema.flush(LIMIT)); // more than the queue has room for would be shed
            }
            long sent = System.nanoTime();
            try (Collector collector = collector("store", topic("many"))) {
                await().atMost(LIMIT).until(() -> count(collector) >= MANY);
                long stored = System.nanoTime();
                assertEquals(MANY, count(collector));
                System.out.printf(
                        Locale.ROOT,
                        "%d events sent with %.0f per second, and read by a collector with %.0f per second%n",
                        MANY,
                        MANY / ((sent - begin) / 1e9),
                        MANY / ((stored - sent) / 1e9));
            }
        }
    }

    private static long count(Collector collector) throws IOException {
        return QueryExecutor.answer(Question.all().newest(0), RemoteSource.at(collector.address(), null))
                .matching();
    }

    @Test
    void collectorsShareATopicAndARestartNeitherLosesNorRepeats() throws IOException {
        create("shared", 4);
        try (Graphema graphema = graphema("shared")) {
            Collector second = collector("second", topic("shared"));
            try (Collector first = collector("first", topic("shared"))) {
                emit(graphema, 0, 4_000);
                assertTrue(graphema.flush(LIMIT));
                awaitNumbers(4_000, first, second);
                second.close();
                emit(graphema, 4_000, 8_000);
                assertTrue(graphema.flush(LIMIT));
                second = collector("second", topic("shared"));
                awaitNumbers(8_000, first, second);
            } finally {
                second.close();
            }
        }
    }

    @Test
    void anotherCollectorTakesOverTheShareOfOneThatDoesNotReturn() throws IOException {
        create("taken", 2);
        collector("gone", topic("taken")).close();
        send("taken", bytes("{\"message\":\"cargo check\",\"number\":0}"));
        try (Collector collector = collector("other", topic("taken"))) {
            awaitNumbers(1, collector);
        }
    }

    @Test
    void anyRecordIsKeptOnceThoughItIsReadAgain() throws IOException {
        create("any", 1);
        send(
                "any",
                bytes("{\"time\":\"2026-05-15T06:31:02.000000001Z\",\"level\":\"info\",\"message\":\"without an id\"}"),
                bytes(
                        "{\"time\":\"2026-05-15T06:31:02.000000002Z\",\"level\":\"info\",\"message\":\"x {\",\"id\":\"00000000000000a1-1\"}"),
                bytes(
                        "{\"ts\":\"2026-05-15T06:31:03Z\",\"msg\":\"of another program\"}\n{\"ts\":\"2026-05-15T06:31:04Z\",\"msg\":\"second line\"}\n"),
                bytes("gate closed"),
                bytes("gate closed"),
                new byte[] {(byte) 0xFF, 0, 1, '\n', (byte) 0xC3},
                new byte[0],
                null,
                bytes("y".repeat(900_000)));
        List<String> first;
        try (Collector collector = collector("any", topic("any"))) {
            await().atMost(LIMIT).until(() -> events(collector).size() >= 9);
            first = events(collector).stream().map(Event::message).toList();
        }
        assertEquals(
                9,
                first.size(),
                () -> first.stream()
                        .map(each -> each.length() > 80 ? each.substring(0, 80) : each)
                        .toList()
                        .toString());
        assertTrue(first.contains("of another program") && first.contains("second line"));
        try (Admin admin = admin()) {
            Thread.sleep(TAKEOVER.toMillis() + 1_000); // until the group has no members
            done(admin.deleteConsumerGroupOffsets("graphema", java.util.Set.of(new TopicPartition("any", 0)))
                    .all());
        } catch (InterruptedException e) {
            throw new IOException(e);
        }
        send("any", bytes("{\"msg\":\"the last\"}"));
        try (Collector collector = collector("any", topic("any"))) {
            await().atMost(LIMIT)
                    .until(() -> events(collector).stream().anyMatch(each -> "the last".equals(each.message())));
            assertEquals(10, events(collector).size());
        }
    }

    @Test
    void eventsWaitWhileTheBrokerIsAway() throws IOException {
        create("away", 2);
        try (Graphema graphema = graphema("away");
                Collector collector = collector("store", topic("away"))) {
            emit(graphema, 0, 500);
            assertTrue(graphema.flush(LIMIT));
            broker.kill();
            emit(graphema, 500, 1_500);
            assertTrue(graphema.flush(LIMIT)); // in the spool
            broker.restart();
            awaitNumbers(1_500, collector);
        }
    }

    @Test
    void deletedRecordsAreReported() throws IOException {
        create("deleted", 1);
        send("deleted", bytes("{\"number\":0}"), bytes("{\"number\":1}"), bytes("{\"number\":2}"));
        try (Collector collector = collector("store", topic("deleted"))) {
            awaitNumbers(3, collector);
        }
        send("deleted", bytes("{\"number\":3}"), bytes("{\"number\":4}"));
        try (Admin admin = admin()) {
            done(admin.deleteRecords(Map.of(new TopicPartition("deleted", 0), RecordsToDelete.beforeOffset(4)))
                    .all());
        }
        try (Collector collector = collector("store", topic("deleted"))) {
            await().atMost(LIMIT).until(() -> numbers(collector).size() >= 4);
            assertEquals(List.of(0L, 1L, 2L, 4L), numbers(collector));
            awaitProblem("the broker has deleted 1 records of partition 0 of the topic deleted before they were read");
        }
    }

    @Test
    void aTopicMayBeMissingAndGrow() throws IOException {
        try (Collector collector = collector("store", topic("later"))) {
            awaitProblem("the topic later cannot be read: there is no such topic: create it, or correct its name");
            create("later", 1);
            send("later", bytes("{\"number\":0}"));
            awaitNumbers(1, collector);
            try (Admin admin = admin()) {
                done(admin.createPartitions(Map.of("later", NewPartitions.increaseTo(5)))
                        .all());
            }
            for (int i = 1; i < 40; i++) {
                send("later", bytes("{\"number\":" + i + "}"));
            }
            awaitNumbers(40, collector);
        }
    }

    @Test
    void settingsThatTheClientDoesNotKnowEndTheStart() throws IOException {
        Path client = folder.resolve("client.properties");
        java.nio.file.Files.writeString(client, "security.protocol=SOME\n");
        Topic topic = new Topic(broker.address(), "through", "graphema", client, TAKEOVER, null, null);
        IOException problem = org.junit.jupiter.api.Assertions.assertThrows(
                IOException.class, () -> collector("store", topic).close());
        assertTrue(problem.getMessage().startsWith("the topic through cannot be read: "), problem.getMessage());
        assertTrue(problem.getMessage().contains("security.protocol"), problem.getMessage());
    }
}
