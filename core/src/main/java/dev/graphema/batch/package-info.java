/**
 * Events are sent in batches to receivers outside of the process. Entry point: {@link dev.graphema.batch.BatchSink}, a sink that
 * handles waiting, retries and the spool; a {@link dev.graphema.batch.Transmitter} implements a protocol.
 */
package dev.graphema.batch;
