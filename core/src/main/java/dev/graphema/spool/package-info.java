/**
 * Files in which events wait: {@link dev.graphema.spool.RingFile} between a caller and the thread of a sink, so that
 * they survive a sudden end of the process; {@link dev.graphema.spool.Spool} while a receiver is unavailable.
 *
 * <p>The package depends on events and their binary form, and not on sinks. The events in these files are redacted.
 */
package dev.graphema.spool;
