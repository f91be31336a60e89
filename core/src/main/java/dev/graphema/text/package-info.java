/** Text forms of durations, sizes, times and numbers, and the most similar of several words. */
package dev.graphema.text;
