/** A collector as a source of events: {@link dev.graphema.remote.RemoteSource} is asked every question. */
package dev.graphema.remote;
