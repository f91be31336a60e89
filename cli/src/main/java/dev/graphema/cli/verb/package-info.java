/** The verbs of the command, and the options they share. */
package dev.graphema.cli.verb;
