/**
 * The command {@code graphema}. Entry point: {@link dev.graphema.cli.Main}.
 *
 * <p>It reads arguments, asks the other modules and shows what they answer; it decides nothing itself. Verbs of other
 * modules are found as services of the type {@link dev.graphema.cli.Verb}.
 */
package dev.graphema.cli;
