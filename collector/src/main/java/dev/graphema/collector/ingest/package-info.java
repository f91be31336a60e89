/** Receives events and appends them to the store. */
package dev.graphema.collector.ingest;
