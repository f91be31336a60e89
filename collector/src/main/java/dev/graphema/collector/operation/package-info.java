/** The state of a collector, for those who operate it. */
package dev.graphema.collector.operation;
