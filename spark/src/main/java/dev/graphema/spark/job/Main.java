package dev.graphema.spark.job;

import dev.graphema.lines.LineFiles;
import dev.graphema.query.Question;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.segments.SegmentFiles;
import dev.graphema.segments.store.StoreRules;
import dev.graphema.segments.store.StoreSource;
import dev.graphema.spark.Lake;
import dev.graphema.spark.Tidying;
import dev.graphema.text.Durations;
import java.io.IOException;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Properties;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.DefaultParser;
import org.apache.commons.cli.Options;
import org.apache.commons.cli.ParseException;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.SparkSession;
import org.apache.spark.sql.streaming.StreamingQueryException;
import org.apache.spark.sql.streaming.Trigger;

/** What {@code spark-submit} starts: {@code ingest}, {@code tidy} or {@code export}. */
public final class Main {
    private static final int AT_ONCE = 100_000;
    private static final int MISUSE = 2;
    private static final String USAGE = """
            usage: spark-submit … graphema-spark.jar ingest|tidy|export --lake FOLDER …
              ingest  --servers ADDRESSES --topic NAME --checkpoint FOLDER [--client FILE] [--every DURATION | --once]
                      reads a topic of Kafka into the lake
              tidy    [--rules FOLDER]       puts small files together, and deletes what rules.yaml in the folder does not keep
              export  --in PATH [--in PATH]  writes logs, segments or a store into the lake
              --fields NAME,NAME             fields with columns of their own, when the lake is created""";

    private Main() {}

    /** Runs a job; ends the process with 2 if the arguments are wrong. */
    public static void main(String[] arguments) throws IOException, StreamingQueryException {
        try {
            run(arguments);
        } catch (ParseException e) {
            System.err.println("graphema: " + e.getMessage() + System.lineSeparator() + USAGE);
            System.exit(MISUSE);
        }
    }

    static void run(String[] arguments) throws ParseException, IOException, StreamingQueryException {
        CommandLine given = new DefaultParser().parse(options(), arguments);
        if (given.getArgs().length != 1) {
            throw new ParseException("expected one of ingest, tidy, export");
        }
        String folder = required(given, "lake");
        String fields = given.getOptionValue("fields", "");
        List<String> frequent = fields.isEmpty() ? List.of() : List.of(fields.split(","));
        switch (given.getArgs()[0]) {
            case "ingest" -> {
                Ingest job = new Ingest(
                        required(given, "servers"),
                        required(given, "topic"),
                        required(given, "checkpoint"),
                        client(given));
                Trigger trigger = trigger(given);
                SparkSession session = session();
                job.start(session, Lake.create(session, folder, frequent), trigger)
                        .awaitTermination();
            }
            case "tidy" -> tidy(Lake.at(session(), folder), given);
            case "export" -> {
                required(given, "in");
                export(Lake.create(session(), folder, frequent), given);
            }
            default ->
                throw new ParseException(
                        "\"" + given.getArgs()[0] + "\" is not known: expected ingest, tidy or export");
        }
    }

    private static Options options() {
        Options options = new Options();
        for (String each :
                List.of("lake", "servers", "topic", "checkpoint", "client", "every", "rules", "in", "fields")) {
            options.addOption(null, each, true, null);
        }
        return options.addOption(null, "once", false, null);
    }

    private static SparkSession session() {
        return SparkSession.builder().appName("graphema").getOrCreate();
    }

    private static String required(CommandLine given, String name) throws ParseException {
        if (!given.hasOption(name)) {
            throw new ParseException("--" + name + " is missing");
        }
        return given.getOptionValue(name);
    }

    private static Trigger trigger(CommandLine given) throws ParseException {
        Duration every = Durations.parse(given.getOptionValue("every", "30s"));
        if (every == null || every.isNegative() || every.isZero()) {
            throw new ParseException(
                    "--every " + given.getOptionValue("every") + " is not a duration: expected such as 30s");
        }
        return given.hasOption("once") ? Trigger.AvailableNow() : Trigger.ProcessingTime(every.toMillis());
    }

    private static Map<String, String> client(CommandLine given) throws IOException {
        Map<String, String> client = new HashMap<>();
        if (given.hasOption("client")) {
            Properties properties = new Properties();
            try (Reader file = Files.newBufferedReader(Path.of(given.getOptionValue("client")))) {
                properties.load(file);
            }
            properties.stringPropertyNames().forEach(name -> client.put(name, properties.getProperty(name)));
        }
        return client;
    }

    private static void tidy(Lake lake, CommandLine given) throws IOException {
        StoreRules rules =
                given.hasOption("rules") ? StoreRules.of(Path.of(given.getOptionValue("rules"))) : StoreRules.KEEP_ALL;
        long deleted = new Tidying(lake, rules, Instant.now()).run();
        System.err.println("graphema: the lake is tidy; " + deleted + " events were deleted");
    }

    private static void export(Lake lake, CommandLine given) throws IOException {
        for (String path : given.getOptionValues("in")) {
            long events = export(lake, Path.of(path));
            System.err.println("graphema: " + events + " events of " + path + " are in the lake");
        }
    }

    /**
     * Writes the events of a log, a segment or a store into a lake, in the order of time; returns how many there are. Those whose id the lake
     * has already are left out.
     */
    public static long export(Lake lake, Path path) throws IOException {
        EventSource source = StoreSource.isStore(path)
                ? StoreSource.at(path)
                : path.toString().endsWith(SegmentFiles.SUFFIX)
                        ? SegmentFiles.at(List.of(path))
                        : LineFiles.at(List.of(path));
        String name =
                "export-" + Integer.toHexString(path.toAbsolutePath().toString().hashCode()) + "-";
        List<Row> rows = new ArrayList<>();
        long[] count = {0};
        Coverage coverage;
        try {
            coverage = QueryExecutor.read(Question.all(), source, Control.NONE, event -> {
                rows.add(lake.schema().row(event, count[0]++, null));
                if (rows.size() == AT_ONCE) {
                    append(lake, name + count[0], rows);
                }
                return true;
            });
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
        append(lake, name + count[0], rows);
        if (!coverage.failures().isEmpty()) {
            throw new IOException("not everything could be read: " + coverage.failures());
        }
        return count[0];
    }

    private static void append(Lake lake, String name, List<Row> rows) {
        try {
            lake.append(name, lake.rows(rows));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        rows.clear();
    }
}
