package dev.graphema.kafka;

import dev.graphema.batch.EventBatch;
import dev.graphema.batch.Transmitter;
import dev.graphema.sink.RefusedException;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.Supplier;
import org.apache.kafka.clients.producer.Producer;
import org.apache.kafka.clients.producer.RecordMetadata;
import org.apache.kafka.common.KafkaException;
import org.apache.kafka.common.errors.AuthenticationException;
import org.apache.kafka.common.errors.AuthorizationException;
import org.apache.kafka.common.errors.InterruptException;
import org.apache.kafka.common.errors.RecordTooLargeException;
import org.apache.kafka.common.errors.UnknownTopicOrPartitionException;

/**
 * Sends batches to a topic, by a producer that is opened when needed and again after it failed. For one thread at a time.
 */
final class TopicTransmitter implements Transmitter {
    private final Supplier<Producer<byte[], byte[]>> opening;
    private final Records records;
    private final Duration timeout;

    /** Null if it is not open. */
    private Producer<byte[], byte[]> producer;

    TopicTransmitter(Supplier<Producer<byte[], byte[]>> opening, Records records, Duration timeout) {
        this.opening = opening;
        this.records = records;
        this.timeout = timeout;
    }

    @Override
    public void send(EventBatch events) throws IOException {
        try {
            if (producer == null) {
                producer = opening.get();
            }
            long by = System.nanoTime() + timeout.toNanos() + TimeUnit.SECONDS.toNanos(1);
            int refused = 0;
            List<Future<RecordMetadata>> sent = new ArrayList<>(events.size());
            for (int i = 0; i < events.size(); i++) {
                Future<RecordMetadata> future = producer.send(records.of(events.get(i)));
                if (future.isDone()) {
                    // A failure ends the loop: otherwise, each further event would wait as long for the brokers.
                    refused += isRefused(future, by) ? 1 : 0;
                } else {
                    sent.add(future);
                }
            }
            for (Future<RecordMetadata> each : sent) {
                refused += isRefused(each, by) ? 1 : 0;
            }
            if (refused > 0) {
                throw new RefusedException("too large for the topic, or for the producer", refused);
            }
        } catch (InterruptException e) { // the client has set the flag of the thread again
            throw new IOException("interrupted while waiting for the brokers");
        } catch (KafkaException e) {
            drop(); // after some errors, a producer never sends again
            throw described(e);
        }
    }

    /**
     * Waits until a record is written; returns whether it is too large.
     *
     * @param by when to give up, as by {@link System#nanoTime}
     */
    private boolean isRefused(Future<RecordMetadata> sent, long by) throws IOException {
        try {
            sent.get(Math.max(0, by - System.nanoTime()), TimeUnit.NANOSECONDS);
            return false;
        } catch (ExecutionException e) {
            if (e.getCause() instanceof RecordTooLargeException) {
                return true;
            }
            if (e.getCause() instanceof KafkaException problem) {
                throw problem;
            }
            throw new IOException(e.getCause());
        } catch (TimeoutException e) {
            throw new IOException("the brokers did not answer within " + timeout.toMillis() + " ms");
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IOException("interrupted while waiting for the brokers");
        }
    }

    private IOException described(KafkaException problem) {
        Throwable cause = problem.getCause() == null ? problem : problem.getCause();
        String hint = "";
        if (problem instanceof AuthenticationException || problem instanceof AuthorizationException) {
            hint = "; check the credentials in client, and what they permit";
        } else if (problem instanceof UnknownTopicOrPartitionException
                || problem instanceof org.apache.kafka.common.errors.TimeoutException) {
            hint = "; check servers, and that the topic " + records.topic() + " exists";
        }
        String message = problem.getMessage() == null ? problem.toString() : problem.getMessage();
        return new IOException(
                message + (cause == problem || cause.getMessage() == null ? "" : ": " + cause.getMessage()) + hint);
    }

    private void drop() {
        Producer<byte[], byte[]> broken = producer;
        producer = null;
        if (broken != null) {
            broken.close(Duration.ZERO);
        }
    }

    @Override
    public void close() {
        drop();
    }

    @Override
    public String toString() {
        return "topic " + records.topic();
    }
}
