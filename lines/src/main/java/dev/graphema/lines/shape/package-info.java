/**
 * How the lines of a log are read: which names are attributes of the event, recognised by names in general and by the
 * values in the first lines, or as the user defines.
 */
package dev.graphema.lines.shape;
