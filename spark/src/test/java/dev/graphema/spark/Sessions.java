package dev.graphema.spark;

import dev.graphema.event.Event;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.SparkSession;

/** One session of Spark for all tests of the process, and lakes with given events. */
final class Sessions {
    private static final boolean IS_LARGE = Long.getLong("events", 0) > 100_000;
    private static SparkSession session;

    private Sessions() {}

    static synchronized SparkSession local() {
        if (session == null) {
            session = SparkSession.builder()
                    .master("local[2]")
                    .appName("graphema tests")
                    .config("spark.ui.enabled", "false")
                    .config("spark.sql.shuffle.partitions", "1")
                    // Small questions take longer to compile than to answer.
                    .config("spark.sql.codegen.wholeStage", Boolean.toString(IS_LARGE))
                    .config("spark.sql.codegen.factoryMode", IS_LARGE ? "FALLBACK" : "NO_CODEGEN")
                    .config("spark.sql.session.timeZone", "UTC")
                    .config("spark.driver.bindAddress", "127.0.0.1")
                    .config("spark.driver.host", "127.0.0.1")
                    .getOrCreate();
            session.sparkContext().setLogLevel("OFF"); // tests cause errors on purpose
        }
        return session;
    }

    static Dataset<Row> rows(Lake lake, List<Event> events) {
        List<Row> rows = new ArrayList<>();
        for (Event each : events) {
            rows.add(lake.schema().row(each, rows.size(), null));
        }
        return lake.rows(rows);
    }

    /** Writes events into a lake without looking for those that it has. */
    static void fill(Lake lake, String name, List<Event> events) throws IOException {
        lake.write(rows(lake, events).coalesce(1), lake.files().staging(name));
        lake.files().commit(name, List.of());
    }
}
