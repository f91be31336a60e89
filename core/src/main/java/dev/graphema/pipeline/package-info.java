/**
 * The way of an event from the caller to the sinks: sample, redact, route, hand over; then, on the sink's own thread,
 * write. Entry point: {@link dev.graphema.pipeline.Pipeline}.
 *
 * <p>The package knows conditions, sampling, redaction and sinks, and nothing of loggers, context or settings.
 */
package dev.graphema.pipeline;
