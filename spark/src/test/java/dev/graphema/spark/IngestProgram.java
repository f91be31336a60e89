package dev.graphema.spark;

import dev.graphema.spark.job.Ingest;
import java.util.List;
import java.util.Map;
import org.apache.spark.sql.SparkSession;
import org.apache.spark.sql.streaming.Trigger;

/** A job in a process of its own, with two workers in further processes, until it is killed. */
final class IngestProgram {
    private IngestProgram() {}

    /** @param arguments addresses of brokers, the topic, the lake, the checkpoint, the class path of the workers */
    public static void main(String[] arguments) throws Exception {
        SparkSession session = SparkSession.builder()
                .master("local-cluster[2,1,1024]")
                .appName("graphema ingest")
                .config("spark.ui.enabled", "false")
                .config("spark.driver.bindAddress", "127.0.0.1")
                .config("spark.driver.host", "127.0.0.1")
                .config("spark.sql.shuffle.partitions", "2")
                .config("spark.executor.extraClassPath", arguments[4])
                .getOrCreate();
        Lake lake = Lake.create(session, arguments[2], List.of("number"));
        System.out.println("started");
        new Ingest(arguments[0], arguments[1], arguments[3], Map.of())
                .start(session, lake, Trigger.ProcessingTime(0))
                .awaitTermination();
    }
}
