/**
 * The store: a folder with segments, a log of unsealed events, and a manifest that lists those which count. {@link
 * dev.graphema.segments.store.Store} writes, one process at a time; {@link dev.graphema.segments.store.StoreSource} reads, in any
 * number of processes.
 */
package dev.graphema.segments.store;
