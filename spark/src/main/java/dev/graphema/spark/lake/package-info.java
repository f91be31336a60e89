/** The layout of a lake: the columns of its files, and how files become visible together or not at all. */
package dev.graphema.spark.lake;
