package dev.graphema.spark;

import dev.graphema.query.Question;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.spark.job.Ingest;
import java.util.List;
import java.util.Map;
import org.apache.spark.sql.SparkSession;
import org.apache.spark.sql.streaming.Trigger;

/** Programs in a process of their own, with two workers in further processes. The first argument is the class path of the workers. */
final class ClusterPrograms {
    private ClusterPrograms() {}

    private static SparkSession session(String classPath) {
        return SparkSession.builder()
                .master("local-cluster[2,1,1024]")
                .appName("graphema")
                .config("spark.ui.enabled", "false")
                .config("spark.driver.bindAddress", "127.0.0.1")
                .config("spark.driver.host", "127.0.0.1")
                .config("spark.sql.shuffle.partitions", "2")
                .config("spark.executor.extraClassPath", classPath)
                .getOrCreate();
    }

    /** Reads a topic into a lake until it is killed. */
    static final class Ingesting {
        private Ingesting() {}

        /** @param arguments then addresses of brokers, the topic, the lake, the checkpoint */
        public static void main(String[] arguments) throws Exception {
            SparkSession session = session(arguments[0]);
            Lake lake = Lake.create(session, arguments[3], List.of("number"));
            System.out.println("started");
            new Ingest(arguments[1], arguments[2], arguments[4], Map.of())
                    .start(session, lake, Trigger.ProcessingTime(0))
                    .awaitTermination();
        }
    }

    /** Prints how many events of a lake match conditions that the workers can decide only by looking at the events. */
    static final class Asking {
        private Asking() {}

        /** @param arguments then the lake */
        public static void main(String[] arguments) throws Exception {
            Lake lake = Lake.at(session(arguments[0]), arguments[1]);
            System.out.println(
                    lake.events("message matches \"^seat\" and number > 9").count());
            CountTable counts = QueryExecutor.answer(
                    Question.where("message near \"seat hold\"").counts("missing", "level"), LakeSource.of(lake));
            counts.rows()
                    .forEach(row ->
                            System.out.println(row.values() + " " + row.events().count()));
        }
    }
}
