/**
 * Events in a topic of Kafka. Entry point: {@link dev.graphema.kafka.KafkaKind}, which settings name {@code kafka}.
 *
 * <p>The package sends records; {@link dev.graphema.batch.BatchSink} handles batches, retries and the spool. The program provides
 * Kafka's client, with the libraries that it needs.
 */
package dev.graphema.kafka;
