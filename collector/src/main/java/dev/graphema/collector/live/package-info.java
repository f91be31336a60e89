/** Passes on events as they arrive. */
package dev.graphema.collector.live;
