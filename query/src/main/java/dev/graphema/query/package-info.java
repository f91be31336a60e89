/**
 * Finding events in written logs. Entry points: {@link dev.graphema.query.Logs}, which reads files and folders as one stream
 * of events in the order of time, and {@link dev.graphema.query.Trail}, which puts one trace together.
 *
 * <p>The package prints nothing and knows no command line.
 */
package dev.graphema.query;
