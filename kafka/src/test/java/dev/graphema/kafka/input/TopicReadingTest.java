package dev.graphema.kafka.input;

import static org.awaitility.Awaitility.await;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.collector.input.RecordReceiver;
import dev.graphema.collector.input.TopicRecord;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicInteger;
import org.apache.kafka.clients.consumer.ConsumerRecord;
import org.apache.kafka.clients.consumer.MockConsumer;
import org.apache.kafka.common.KafkaException;
import org.apache.kafka.common.Node;
import org.apache.kafka.common.PartitionInfo;
import org.apache.kafka.common.TopicPartition;
import org.apache.kafka.common.errors.FencedInstanceIdException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

/** Reading with a consumer that only returns what it is given. */
@Timeout(60)
class TopicReadingTest {
    private static final TopicPartition PARTITION = new TopicPartition("events", 0);

    private final List<String> problems = new CopyOnWriteArrayList<>();
    private final List<String> stored = new CopyOnWriteArrayList<>();
    private final List<MockConsumer<byte[], byte[]>> consumers = new CopyOnWriteArrayList<>();
    private final AtomicInteger failures = new AtomicInteger();

    private MockConsumer<byte[], byte[]> open() {
        MockConsumer<byte[], byte[]> consumer = new MockConsumer<>("none");
        Node node = new Node(1, "127.0.0.1", 9092);
        consumer.updatePartitions(
                "events", List.of(new PartitionInfo("events", 0, node, new Node[] {node}, new Node[] {node})));
        consumer.updateBeginningOffsets(Map.of(PARTITION, 0L));
        consumer.schedulePollTask(() -> consumer.rebalance(List.of(PARTITION)));
        consumers.add(consumer);
        return consumer;
    }

    private TopicReading start(RecordReceiver receiver) {
        return TopicReading.start("events", this::open, receiver, problems::add);
    }

    private MockConsumer<byte[], byte[]> consumer(int index) {
        await().until(() ->
                consumers.size() > index && consumers.get(index).assignment().equals(Set.of(PARTITION)));
        return consumers.get(index);
    }

    private static void add(MockConsumer<byte[], byte[]> consumer, int offset, String value) {
        consumer.schedulePollTask(() -> consumer.addRecord(
                new ConsumerRecord<>("events", 0, offset, null, value.getBytes(StandardCharsets.UTF_8))));
    }

    /** A consumer of this kind forgets what it has returned: a broker would return it again. */
    private void addAgain(MockConsumer<byte[], byte[]> consumer, int offset, String value) {
        await().until(() -> failures.get() == 0);
        await().until(() -> consumer.position(PARTITION) == offset);
        add(consumer, offset, value);
    }

    private void store(List<TopicRecord> records) throws IOException {
        if (failures.getAndUpdate(left -> Math.max(0, left - 1)) > 0) {
            throw new IOException("the disk is full");
        }
        records.forEach(each -> stored.add(new String(each.value(), StandardCharsets.UTF_8)));
    }

    private static long committed(MockConsumer<byte[], byte[]> consumer) {
        var place = consumer.committed(Set.of(PARTITION)).get(PARTITION);
        return place == null ? -1 : place.offset();
    }

    @Test
    void whatIsStoredIsCommittedAndNothingElse() {
        try (TopicReading reading = start(this::store)) {
            MockConsumer<byte[], byte[]> consumer = consumer(0);
            add(consumer, 0, "one");
            add(consumer, 1, "two");
            await().until(() -> committed(consumer) == 2);
            failures.set(1);
            add(consumer, 2, "three");
            addAgain(consumer, 2, "three");
            await().until(() -> stored.size() == 3);
            await().until(() -> committed(consumer) == 3);
        }
        assertEquals(List.of("one", "two", "three"), stored);
        assertEquals(List.of(), problems); // the receiver reports them
    }

    @Test
    void theSameRecordHasTheSameNumberAndOthersHaveOthers() {
        List<Long> numbers = new ArrayList<>();
        try (TopicReading reading = start(records -> {
            records.forEach(each -> numbers.add(each.number()));
            store(List.of());
        })) {
            failures.set(1);
            MockConsumer<byte[], byte[]> consumer = consumer(0);
            add(consumer, 0, "one");
            addAgain(consumer, 0, "one");
            await().until(() -> committed(consumer) == 1);
            add(consumer, 1, "two");
            await().until(() -> committed(consumer) == 2);
        }
        assertEquals(3, numbers.size());
        assertEquals(numbers.get(0), numbers.get(1));
        assertTrue(!numbers.get(1).equals(numbers.get(2)));
    }

    @Test
    void anErrorIsReportedOnceAndAnotherConsumerIsOpened() {
        try (TopicReading reading = start(this::store)) {
            MockConsumer<byte[], byte[]> first = consumer(0);
            first.schedulePollTask(() -> first.setPollException(new KafkaException("the connection is lost")));
            MockConsumer<byte[], byte[]> second = consumer(1);
            assertTrue(first.closed());
            second.schedulePollTask(() -> second.setPollException(new KafkaException("the connection is lost")));
            add(consumer(2), 0, "one");
            await().until(() -> problems.size() == 2);
            assertEquals(
                    List.of(
                            "the topic events cannot be read: the connection is lost; check servers, client and that the topic"
                                    + " exists",
                            "the topic events is read again"),
                    problems);
            assertEquals(List.of("one"), stored);
        }
    }

    @Test
    void aCopyOfTheStoreIsRecognised() {
        try (TopicReading reading = start(this::store)) {
            MockConsumer<byte[], byte[]> first = consumer(0);
            first.schedulePollTask(() -> first.setPollException(new FencedInstanceIdException("fenced")));
            await().until(() -> !problems.isEmpty());
            assertTrue(
                    problems.get(0).contains("another collector reads the topic under the same name"), problems.get(0));
        }
    }

    @Test
    void anErrorOfTheReceiverEndsNothing() {
        AtomicInteger calls = new AtomicInteger();
        try (TopicReading reading = start(records -> {
            if (calls.getAndIncrement() == 0) {
                throw new OutOfMemoryError("made up");
            }
            store(records);
        })) {
            add(consumer(0), 0, "one");
            MockConsumer<byte[], byte[]> second = consumer(1);
            add(second, 0, "one");
            await().until(() -> committed(second) == 1);
            assertEquals(List.of("one"), stored);
        }
    }
}
