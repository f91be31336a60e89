/**
 * The arguments of commands, declared in code: {@link dev.graphema.cli.arguments.Arguments}.
 *
 * <p>Commons CLI parses the command line; names, values and help are defined here. There are no annotations, because
 * reading them takes longer than most searches. The package depends neither on commands nor on logs.
 */
package dev.graphema.cli.arguments;
