/** The options with which logs are read, and the logs that they name: {@link dev.graphema.cli.input.InputOptions}. */
package dev.graphema.cli.input;
