/**
 * The command {@code graphema}. Entry point: {@link dev.graphema.cli.Main}.
 *
 * <p>It parses arguments, calls the other modules and shows their answers; it has no logic of its own. Commands of
 * other modules are found as services of the type {@link dev.graphema.cli.verb.Verb}.
 */
package dev.graphema.cli;
