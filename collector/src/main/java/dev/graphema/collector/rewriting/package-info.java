/** Events with changed values: those that arrive, and those that a reader may see only in part. */
package dev.graphema.collector.rewriting;
