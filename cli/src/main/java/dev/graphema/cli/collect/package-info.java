/** The command that runs a collector. */
package dev.graphema.cli.collect;
