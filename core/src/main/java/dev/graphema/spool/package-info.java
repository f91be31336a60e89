/**
 * Where events wait as bytes: in a {@link dev.graphema.spool.Ring} between a caller and the thread of a sink, in memory or
 * in a {@link dev.graphema.spool.RingFile}, which survives a sudden end of the process; and in a {@link
 * dev.graphema.spool.Spool} while a receiver is unavailable.
 *
 * <p>The package depends on events and their binary form, and not on sinks. The events are redacted.
 */
package dev.graphema.spool;
