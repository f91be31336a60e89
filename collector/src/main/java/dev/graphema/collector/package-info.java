/**
 * The collector: {@link dev.graphema.collector.Collector#start} starts it. Below are {@code http}, the server without knowledge of
 * events; {@code ingest}, which receives; {@code question}, which answers; and {@code live}, which passes on as it happens.
 */
package dev.graphema.collector;
