/**
 * The path of an event from the caller to the sinks: sample, redact, hold back, route, hand over; and on the thread of
 * the sink: write. Entry point: {@link dev.graphema.pipeline.Pipeline}.
 *
 * <p>The package depends on conditions, sampling, redaction and sinks, and not on loggers, context or settings.
 */
package dev.graphema.pipeline;
