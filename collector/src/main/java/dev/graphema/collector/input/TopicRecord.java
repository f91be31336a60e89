package dev.graphema.collector.input;

/**
 * A record of a topic.
 *
 * @param value one or more lines: Graphema JSON, or those of any other program
 * @param number identifies the record among all others, also when it is read again
 */
public record TopicRecord(byte[] value, long number) {}
