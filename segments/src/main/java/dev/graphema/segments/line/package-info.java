/** Lines of Graphema JSON, divided into shapes and values. */
package dev.graphema.segments.line;
