/**
 * Sinks that reach receivers outside the process. Entry points: {@link dev.graphema.delivery.HttpKind}, {@link
 * dev.graphema.delivery.OtlpKind} and {@link dev.graphema.delivery.SyslogKind}, which settings name as {@code http}, {@code
 * otlp} and {@code syslog}.
 *
 * <p>The package speaks protocols. Batches, retries and the spool are {@link dev.graphema.sink.BatchSink}'s.
 */
package dev.graphema.delivery;
