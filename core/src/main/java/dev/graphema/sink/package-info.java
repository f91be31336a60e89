/**
 * Sinks write events. Entry point: {@link dev.graphema.sink.Sink}, which programs can implement.
 *
 * <p>A sink is called by one thread and writes events in a format. The pipeline selects its events, and handles a slow
 * or failing sink.
 */
package dev.graphema.sink;
