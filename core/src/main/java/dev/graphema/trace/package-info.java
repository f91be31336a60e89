/** The ids of W3C Trace Context. */
package dev.graphema.trace;
