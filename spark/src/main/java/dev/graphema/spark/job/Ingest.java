package dev.graphema.spark.job;

import dev.graphema.spark.Lake;
import dev.graphema.spark.lake.RecordEvents;
import java.io.IOException;
import java.util.HashMap;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.TimeoutException;
import org.apache.spark.api.java.JavaRDD;
import org.apache.spark.api.java.function.VoidFunction2;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.SparkSession;
import org.apache.spark.sql.streaming.DataStreamWriter;
import org.apache.spark.sql.streaming.StreamingQuery;
import org.apache.spark.sql.streaming.Trigger;

/**
 * Reads a topic of Kafka into a lake, in batches. A batch is in the lake once, also if the job is killed and started again with the same
 * checkpoint.
 *
 * @param servers addresses of brokers
 * @param topic the name of the topic
 * @param checkpoint the folder in which Spark keeps how far it has read
 * @param client further settings of Kafka's consumer, without the prefix {@code kafka.}
 */
public record Ingest(String servers, String topic, String checkpoint, Map<String, String> client) {
    /** A batch can be repeated only as long as the next one has not begun. */
    private static final long REPEATABLE = 2;

    public Ingest {
        Objects.requireNonNull(servers, "servers");
        Objects.requireNonNull(topic, "topic");
        Objects.requireNonNull(checkpoint, "checkpoint");
        client = Map.copyOf(client);
    }

    /**
     * Starts the job.
     *
     * @param trigger when batches begin; {@link Trigger#AvailableNow} ends when all that is there has been read
     * @throws IOException if Spark cannot start it
     */
    public StreamingQuery start(SparkSession session, Lake lake, Trigger trigger) throws IOException {
        Dataset<Row> records = session.readStream()
                .format("kafka")
                .option("kafka.bootstrap.servers", servers)
                .option("subscribe", topic)
                .option("startingOffsets", "earliest")
                .options(kafkaOptions())
                .load()
                .selectExpr(RecordEvents.COLUMNS.toArray(new String[0]));
        VoidFunction2<Dataset<Row>, Long> append = (batch, number) -> append(lake, batch, number);
        DataStreamWriter<Row> writer = records.writeStream()
                .queryName("graphema-" + topic)
                .option("checkpointLocation", checkpoint)
                .trigger(trigger)
                .foreachBatch(append);
        try {
            return writer.start();
        } catch (TimeoutException e) {
            throw new IOException("the job cannot be started: " + e.getMessage(), e);
        }
    }

    private Map<String, String> kafkaOptions() {
        Map<String, String> options = new HashMap<>();
        client.forEach((name, value) -> options.put("kafka." + name, value));
        return options;
    }

    private void append(Lake lake, Dataset<Row> batch, long number) throws IOException {
        JavaRDD<Row> events = batch.toJavaRDD().flatMap(new RecordEvents(lake.schema()));
        Dataset<Row> rows =
                batch.sparkSession().createDataFrame(events, lake.schema().plainType());
        lake.append(name(number), lake.schema().rows(rows));
        lake.forget(name(number - REPEATABLE));
    }

    private String name(long batch) {
        return topic + "-" + Integer.toHexString(checkpoint.hashCode()) + "-" + batch;
    }
}
