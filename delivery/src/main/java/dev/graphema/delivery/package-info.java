/**
 * Sinks for remote receivers. Entry points: {@link dev.graphema.delivery.HttpKind}, {@link
 * dev.graphema.delivery.OtlpKind} and {@link dev.graphema.delivery.SyslogKind}, which settings name {@code http},
 * {@code otlp} and {@code syslog}.
 *
 * <p>The package implements protocols; {@link dev.graphema.batch.BatchSink} handles batches, retries and the spool.
 */
package dev.graphema.delivery;
