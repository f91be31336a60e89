/**
 * Events in a database table. Entry point: {@link dev.graphema.sql.SqlKind}, which settings name {@code sql}.
 *
 * <p>The package implements SQL; {@link dev.graphema.batch.BatchSink} handles batches, retries and the spool. The
 * program provides the driver.
 */
package dev.graphema.sql;
