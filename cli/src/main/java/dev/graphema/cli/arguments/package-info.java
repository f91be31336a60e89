/**
 * What a verb of the command may be given, told by code: {@link dev.graphema.cli.arguments.Arguments}.
 *
 * <p>Reading the command line is left to Commons CLI; names, values and help are kept here. Nothing is found out by looking at annotations, which takes
 * longer than most questions take to answer. It knows neither verbs nor logs.
 */
package dev.graphema.cli.arguments;
