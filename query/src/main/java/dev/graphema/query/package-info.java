/**
 * Searches written logs of Graphema and other programs. Entry points: {@link dev.graphema.query.Logs}, which reads
 * files, folders and streams as one stream of events in the order of time, and the answers: {@link
 * dev.graphema.query.Tally}, {@link dev.graphema.query.Timeline}, {@link dev.graphema.query.Trail}, {@link
 * dev.graphema.query.Around}, {@link dev.graphema.query.Faults} and {@link dev.graphema.query.Contrast}. {@link
 * dev.graphema.query.Follower} follows files while they are written.
 *
 * <p>The package does not depend on the command.
 */
package dev.graphema.query;
