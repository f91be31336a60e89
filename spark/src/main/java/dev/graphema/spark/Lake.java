package dev.graphema.spark;

import dev.graphema.condition.Condition;
import dev.graphema.condition.ConditionException;
import dev.graphema.query.Window;
import dev.graphema.spark.lake.EventSchema;
import dev.graphema.spark.lake.LakeFields;
import dev.graphema.spark.lake.LakeFiles;
import dev.graphema.spark.lake.LakeStatements;
import dev.graphema.sql.table.Sql;
import dev.graphema.text.Times;
import java.io.FileNotFoundException;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import org.apache.hadoop.fs.FSDataInputStream;
import org.apache.hadoop.fs.FSDataOutputStream;
import org.apache.hadoop.fs.FileSystem;
import org.apache.hadoop.fs.Path;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.SparkSession;

/**
 * A folder of Parquet files with events, divided by day and hour (UTC), on any file system that Spark reads and that renames a file at once.
 * docs/lake.md describes the columns. Thread-safe.
 *
 * <pre>{@code
 * Dataset<Row> refused = Lake.at(session, "/lake/skerry").events("level >= error and service = deck");
 * }</pre>
 */
public final class Lake {
    private static final String FIELDS = "_fields";
    private static final int MOST_ATTEMPTS = 5;

    private final SparkSession session;
    private final Path root;
    private final LakeFiles files;
    private final EventSchema schema;
    private final LakeFields fields;

    private Lake(SparkSession session, Path root, FileSystem system, List<String> frequent) {
        this.session = session;
        this.root = root;
        this.files = new LakeFiles(system, root);
        this.schema = new EventSchema(frequent);
        this.fields = new LakeFields(frequent);
    }

    /**
     * Opens a lake.
     *
     * @param folder a path or URL as Spark accepts
     * @throws IOException if there is none
     */
    public static Lake at(SparkSession session, String folder) throws IOException {
        Path root = new Path(Objects.requireNonNull(folder, "folder"));
        FileSystem system = system(session, root);
        Path fields = new Path(root, FIELDS);
        if (!system.exists(fields)) {
            throw new IOException(
                    folder + " is not a lake: it has no file " + FIELDS + "; name the folder of one, or create it");
        }
        try (FSDataInputStream in = system.open(fields)) {
            List<String> frequent = new String(in.readAllBytes(), StandardCharsets.UTF_8)
                    .lines()
                    .filter(line -> !line.isBlank())
                    .toList();
            return new Lake(session, root, system, frequent);
        }
    }

    /**
     * Opens a lake, which is created if it does not exist.
     *
     * @param frequent the fields that have columns of their own; those of a lake that exists remain unchanged
     */
    public static Lake create(SparkSession session, String folder, List<String> frequent) throws IOException {
        Path root = new Path(Objects.requireNonNull(folder, "folder"));
        FileSystem system = system(session, root);
        Path fields = new Path(root, FIELDS);
        if (!system.exists(fields)) {
            try (FSDataOutputStream out = system.create(fields, false)) {
                out.write(String.join("\n", frequent).getBytes(StandardCharsets.UTF_8));
            }
        }
        return at(session, folder);
    }

    private static FileSystem system(SparkSession session, Path root) throws IOException {
        return root.getFileSystem(session.sparkContext().hadoopConfiguration());
    }

    LakeFiles files() {
        return files;
    }

    /** Returns the columns. */
    public EventSchema schema() {
        return schema;
    }

    /** Returns all events that are there now; those that come later are not seen. */
    public Dataset<Row> events() throws IOException {
        return read(files.current());
    }

    Dataset<Row> read(Collection<String> paths) {
        return read(session, paths);
    }

    private Dataset<Row> read(SparkSession in, Collection<String> paths) {
        return paths.isEmpty()
                ? in.createDataFrame(List.of(), schema.type())
                : in.read()
                        .schema(schema.type())
                        .option("basePath", root.toString())
                        .parquet(paths.toArray(new String[0]));
    }

    /**
     * Returns the events that match a condition, exactly as everywhere else. Conditions on attributes are decided by Spark, the others for
     * each event that these leave.
     *
     * @throws ConditionException if it cannot be read
     */
    public Dataset<Row> events(String condition) throws IOException {
        return events(Condition.parse(condition));
    }

    Dataset<Row> events(Condition condition) throws IOException {
        return statements().events(condition);
    }

    /** Returns statements over the files that there are now. */
    LakeStatements statements() throws IOException {
        List<String> now = files.current();
        return LakeStatements.over(session, in -> read(in, now), fields, toString());
    }

    /**
     * Adds events, all of them or, if it fails, none. An event whose id the lake has already is left out.
     *
     * @param name identifies the change: one that was made already is not made again
     * @param rows of the type of {@link #schema}
     * @return whether it was made now
     */
    public boolean append(String name, Dataset<Row> rows) throws IOException {
        if (files.isDone(name)) {
            files.finishInterrupted();
            return false;
        }
        Dataset<Row> added = rows.persist();
        try {
            for (int attempt = 1; !isWritten(name, added); attempt++) {
                if (attempt == MOST_ATTEMPTS) {
                    throw new IOException(
                            this + " is tidied again and again while events are added: tidy it less often");
                }
            }
            files.commit(name, List.of());
            return true;
        } finally {
            added.unpersist();
        }
    }

    /** Writes what the lake does not have yet; returns false if another job has deleted a file meanwhile. */
    private boolean isWritten(String name, Dataset<Row> added) throws IOException {
        try {
            Dataset<Row> once = added.filter("id is null")
                    .unionAll(added.filter("id is not null").dropDuplicates("id"));
            Dataset<Row> known = read(filesOf(added)).filter("id is not null").select("id");
            write(once.join(known, once.col("id").equalTo(known.col("id")), "left_anti"), files.staging(name));
            return true;
        } catch (Exception e) { // Spark also throws checked exceptions that it does not declare
            for (Throwable each = e; each != null; each = each.getCause()) {
                if (each instanceof FileNotFoundException) {
                    return false;
                }
            }
            throw e;
        }
    }

    /** Forgets that a change was made, when it cannot be repeated any more. */
    public void forget(String name) throws IOException {
        files.forget(name);
    }

    /** Returns rows of the type of {@link #schema} from those of events. */
    public Dataset<Row> rows(List<Row> ofEvents) {
        return schema.rows(session.createDataFrame(ofEvents, schema.plainType()));
    }

    /** Writes rows into the folder, one file for each hour and task. */
    void write(Dataset<Row> rows, Path folder) {
        rows.write().option("compression", "zstd").partitionBy("day", "hour").parquet(folder.toString());
    }

    /** Returns the files of the hours in which there are rows: the same event is always in the same hour. */
    private List<String> filesOf(Dataset<Row> rows) throws IOException {
        Set<String> hours = new HashSet<>();
        for (Row each : rows.select("day", "hour").distinct().collectAsList()) {
            hours.add("/day=" + each.get(0) + "/hour=" + each.get(1) + "/");
        }
        return files.current().stream()
                .filter(file -> hours.stream().anyMatch(file::contains))
                .toList();
    }

    /** Returns the folder of the hour of a time. */
    String hour(Instant time) {
        OffsetDateTime hour = time.atOffset(ZoneOffset.UTC);
        return files.folder("day=" + hour.toLocalDate(), "hour=" + hour.getHour());
    }

    /** Returns the condition for the days of a window, by which Spark leaves out files. */
    static Sql days(Window window) {
        List<Sql> parts = new ArrayList<>();
        if (window.from() != Long.MIN_VALUE) {
            parts.add(Sql.of("\"day\" >= ?", day(window.from())));
        }
        if (window.to() != Long.MAX_VALUE) {
            parts.add(Sql.of("\"day\" <= ?", day(window.to())));
        }
        return Sql.all(parts);
    }

    private static LocalDate day(long epochNanos) {
        return LocalDate.ofInstant(Times.instant(epochNanos), ZoneOffset.UTC);
    }

    @Override
    public String toString() {
        return root.toString();
    }
}
