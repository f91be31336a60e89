/** Jobs that {@code spark-submit} starts: they fill and tidy a lake. */
package dev.graphema.spark.job;
