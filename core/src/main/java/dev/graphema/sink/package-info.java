/**
 * Where events are written. Entry point: {@link dev.graphema.sink.Sink}, which anyone can implement.
 *
 * <p>A sink is called by one thread and turns events into output with a format; which events it gets, and what happens
 * when it is slow, is decided elsewhere.
 */
package dev.graphema.sink;
