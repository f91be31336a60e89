/**
 * How an event looks where it is written. Entry point: {@link dev.graphema.format.Format}; ready ones are {@link
 * dev.graphema.format.JsonLines} for machines and {@link dev.graphema.format.Columns} for people.
 *
 * <p>Formats turn events into bytes; they know nothing of where the bytes go.
 */
package dev.graphema.format;
