/** Topics of Kafka as an input of the collector. */
package dev.graphema.kafka.input;
