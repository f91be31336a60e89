/**
 * How context and correlation travel: between threads, as {@link dev.graphema.propagation.ThreadFrames} and wrapped executors,
 * and between processes, as the headers of W3C Trace Context and W3C Baggage.
 */
package dev.graphema.propagation;
