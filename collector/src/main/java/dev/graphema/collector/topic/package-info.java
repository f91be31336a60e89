/** Reads topics of message brokers: what is the same for all brokers. */
package dev.graphema.collector.topic;
