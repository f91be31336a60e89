/** What the command prints: the console, tables, events, reports. */
package dev.graphema.cli.output;
