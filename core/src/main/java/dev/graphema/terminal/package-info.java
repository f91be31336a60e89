/** The terminal of the process: whether there is one, its width and its colours. */
package dev.graphema.terminal;
