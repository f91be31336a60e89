/**
 * A lake of Parquet files with events, which Spark fills, tidies and asks. Entry points: {@link dev.graphema.spark.Lake} and {@link
 * dev.graphema.spark.LakeSource}. The jobs in {@link dev.graphema.spark.job} are started with {@code spark-submit}.
 */
package dev.graphema.spark;
