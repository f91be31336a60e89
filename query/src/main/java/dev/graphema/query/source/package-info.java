/**
 * The contract of sources, and the executor that answers questions over them. Implement {@link
 * dev.graphema.query.source.EventSource} for a new source; {@link dev.graphema.query.source.MemorySource} is the simplest.
 */
package dev.graphema.query.source;
