package dev.graphema.kafka.input;

import dev.graphema.collector.input.RecordReceiver;
import dev.graphema.collector.input.TopicRecord;
import java.io.Closeable;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;
import org.apache.kafka.clients.consumer.Consumer;
import org.apache.kafka.clients.consumer.ConsumerRecord;
import org.apache.kafka.clients.consumer.ConsumerRecords;
import org.apache.kafka.clients.consumer.NoOffsetForPartitionException;
import org.apache.kafka.clients.consumer.OffsetAndMetadata;
import org.apache.kafka.clients.consumer.OffsetOutOfRangeException;
import org.apache.kafka.common.KafkaException;
import org.apache.kafka.common.TopicPartition;
import org.apache.kafka.common.errors.FencedInstanceIdException;
import org.apache.kafka.common.errors.RebalanceInProgressException;
import org.apache.kafka.common.errors.WakeupException;

/**
 * Reads a topic on a thread of its own: records are stored, then their places are committed. After an error, the consumer is opened
 * again with growing pauses.
 */
final class TopicReading implements Closeable {
    private static final Duration POLL = Duration.ofMillis(500);
    private static final Duration COMMIT = Duration.ofSeconds(10);
    private static final Duration FIRST_PAUSE = Duration.ofMillis(250);
    private static final Duration LONGEST_PAUSE = Duration.ofSeconds(30);
    private static final long END_MILLIS = 15_000;

    private final String topic;
    private final Supplier<Consumer<byte[], byte[]>> opening;
    private final RecordReceiver receiver;
    private final java.util.function.Consumer<String> problems;
    private final Thread thread;
    private final Object waiting = new Object();
    private volatile boolean isClosed;

    /** The open consumer, for {@link #close}; guarded by {@link #waiting}. */
    private Consumer<byte[], byte[]> open;

    private Duration pause = FIRST_PAUSE;
    private String reported;

    private TopicReading(
            String topic,
            Supplier<Consumer<byte[], byte[]>> opening,
            RecordReceiver receiver,
            java.util.function.Consumer<String> problems) {
        this.topic = topic;
        this.opening = opening;
        this.receiver = receiver;
        this.problems = problems;
        this.thread = new Thread(this::run, "graphema-topic-" + topic);
        thread.setDaemon(true);
    }

    static TopicReading start(
            String topic,
            Supplier<Consumer<byte[], byte[]>> opening,
            RecordReceiver receiver,
            java.util.function.Consumer<String> problems) {
        TopicReading reading = new TopicReading(topic, opening, receiver, problems);
        reading.thread.start();
        return reading;
    }

    private void run() {
        while (!isClosed) {
            try (Consumer<byte[], byte[]> consumer = opened()) {
                consumer.subscribe(List.of(topic));
                checkThatItExists(consumer);
                while (!isClosed) {
                    read(consumer);
                }
            } catch (WakeupException e) {
                return;
            } catch (FencedInstanceIdException e) {
                failed(
                        "another collector reads the topic under the same name: give each collector a store of its own, not a copy"
                                + " with the file member");
            } catch (KafkaException e) {
                failed(described(e) + "; check servers, client and that the topic exists");
            } catch (RuntimeException | OutOfMemoryError | LinkageError e) {
                failed(e.toString());
            }
        }
    }

    private Consumer<byte[], byte[]> opened() {
        Consumer<byte[], byte[]> consumer = opening.get();
        synchronized (waiting) {
            open = consumer;
            if (isClosed) {
                consumer.wakeup();
            }
        }
        return consumer;
    }

    private void checkThatItExists(Consumer<byte[], byte[]> consumer) {
        if (consumer.partitionsFor(topic).isEmpty()) {
            report("there is no such topic: create it, or correct its name; the collector waits for it");
        }
    }

    private void read(Consumer<byte[], byte[]> consumer) {
        ConsumerRecords<byte[], byte[]> records;
        try {
            records = consumer.poll(POLL);
        } catch (NoOffsetForPartitionException e) {
            consumer.seekToBeginning(e.partitions()); // the group reads them for the first time
            return;
        } catch (OffsetOutOfRangeException e) {
            passOverDeleted(consumer, e);
            return;
        }
        if (records.isEmpty()) {
            return;
        }
        try {
            receiver.take(received(records));
        } catch (IOException e) {
            readAgain(consumer, records); // the receiver has reported it
            pause();
            return;
        }
        try {
            consumer.commitSync(records.nextOffsets(), COMMIT);
        } catch (RebalanceInProgressException e) {
            return; // the next records commit these, too
        }
        pause = FIRST_PAUSE;
        if (reported != null) {
            reported = null;
            problems.accept("the topic " + topic + " is read again");
        }
    }

    /** Returns the records with a value: one without is not an event, but the deletion of a key. */
    private static List<TopicRecord> received(ConsumerRecords<byte[], byte[]> records) {
        List<TopicRecord> received = new ArrayList<>(records.count());
        for (ConsumerRecord<byte[], byte[]> each : records) {
            if (each.value() != null) {
                received.add(new TopicRecord(each.value(), number(each)));
            }
        }
        return received;
    }

    /** A topic that was deleted and created again has the same places, but other times. */
    private static long number(ConsumerRecord<byte[], byte[]> record) {
        long number = Objects.hash(record.topic(), record.partition());
        number = number * 0x9E3779B97F4A7C15L + record.offset();
        number = (number ^ number >>> 29) * 0xBF58476D1CE4E5B9L + record.timestamp();
        return (number ^ number >>> 32) * 0x94D049BB133111EBL;
    }

    private static void readAgain(Consumer<byte[], byte[]> consumer, ConsumerRecords<byte[], byte[]> records) {
        for (TopicPartition partition : records.partitions()) {
            consumer.seek(partition, records.records(partition).get(0).offset());
        }
    }

    private void passOverDeleted(Consumer<byte[], byte[]> consumer, OffsetOutOfRangeException problem) {
        Collection<TopicPartition> partitions = problem.partitions();
        Map<TopicPartition, Long> first = consumer.beginningOffsets(partitions);
        Map<TopicPartition, OffsetAndMetadata> places = new HashMap<>();
        problem.offsetOutOfRangePartitions().forEach((partition, place) -> {
            long next = first.getOrDefault(partition, 0L);
            if (next > place) {
                problems.accept("the broker has deleted " + (next - place) + " records of partition "
                        + partition.partition() + " of the topic " + topic
                        + " before they were read, so they are not stored; let it keep them longer (retention.ms)");
            } else {
                problems.accept(
                        "partition " + partition.partition() + " of the topic " + topic + " ends before record " + place
                                + ", up to which it was read; it is read from its beginning: was the topic created again?");
            }
            places.put(partition, new OffsetAndMetadata(next));
            consumer.seek(partition, next);
        });
        consumer.commitSync(places, COMMIT);
    }

    private static String described(RuntimeException problem) {
        Throwable cause = problem.getCause();
        String message = problem.getMessage() == null ? problem.toString() : problem.getMessage();
        return message + (cause == null || cause.getMessage() == null ? "" : ": " + cause.getMessage());
    }

    private void failed(String problem) {
        report(problem);
        pause();
    }

    /** Reports a problem once, until records are read again. */
    private void report(String problem) {
        if (!problem.equals(reported) && !isClosed) {
            reported = problem;
            problems.accept("the topic " + topic + " cannot be read: " + problem);
        }
    }

    private void pause() {
        long by = System.nanoTime() + pause.toNanos();
        synchronized (waiting) {
            long left;
            while (!isClosed && (left = by - System.nanoTime()) > 0) {
                try {
                    TimeUnit.NANOSECONDS.timedWait(waiting, left);
                } catch (InterruptedException e) {
                    return; // closed
                }
            }
        }
        Duration longer = pause.multipliedBy(2);
        pause = longer.compareTo(LONGEST_PAUSE) > 0 ? LONGEST_PAUSE : longer;
    }

    /** Ends reading after the records in hand. The group keeps the collector's share for its return. */
    @Override
    public void close() {
        synchronized (waiting) {
            isClosed = true;
            waiting.notifyAll();
            if (open != null) {
                open.wakeup();
            }
        }
        try {
            thread.join(END_MILLIS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        thread.interrupt();
    }
}
