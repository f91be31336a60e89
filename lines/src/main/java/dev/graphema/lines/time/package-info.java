/** Times in logs of other programs: the forms in which programs write them, and what a log decides about them. */
package dev.graphema.lines.time;
