/** Starts large programs of others, for tests and the demo. The folders beside the sources gather their libraries. */
package dev.graphema.engines;
