/**
 * Events in a database table. Entry point: {@link dev.graphema.jdbc.SqlKind}, which settings name {@code sql}.
 *
 * <p>The package implements SQL; {@link dev.graphema.sink.BatchSink} handles batches, retries and the spool. The
 * program provides the driver.
 */
package dev.graphema.jdbc;
