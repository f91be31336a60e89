/**
 * Files in which events wait: {@link dev.graphema.spool.RingFile} between a caller and a sink's thread, so that they survive
 * the sudden end of the process; {@link dev.graphema.spool.Spool} for as long as a receiver is away.
 *
 * <p>The package knows events and their bytes, and nothing of sinks. What lies in these files is redacted already.
 */
package dev.graphema.spool;
