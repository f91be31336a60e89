/**
 * Events in a table of a database. Entry point: {@link dev.graphema.jdbc.SqlKind}, which settings name as {@code sql}.
 *
 * <p>The package speaks SQL. Batches, retries and the spool are {@link dev.graphema.sink.BatchSink}'s; the driver is the
 * program's own.
 */
package dev.graphema.jdbc;
