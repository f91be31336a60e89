package dev.graphema.spark.lake;

import dev.graphema.condition.Condition;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.ReadErrors;
import dev.graphema.sql.table.Cancelling;
import dev.graphema.sql.table.FieldColumns;
import dev.graphema.sql.table.ReturnedRows;
import dev.graphema.sql.table.Sql;
import dev.graphema.sql.table.Statements;
import dev.graphema.sql.table.TablePlan;
import java.io.IOException;
import java.sql.Timestamp;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.HashMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.Future;
import java.util.function.Function;
import org.apache.spark.SparkContext;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.SparkSession;

/** Statements that Spark executes over the files that a lake had at one moment. Jobs are cancelled if reading is to be stopped. */
public final class LakeStatements implements Statements {
    private static final String VIEW = "lake";

    private final SparkSession session;
    private final FieldColumns fields;
    private final String name;

    private LakeStatements(SparkSession session, FieldColumns fields, String name) {
        this.session = session;
        this.fields = fields;
        this.name = name;
    }

    /**
     * Returns statements in a session of their own: the settings of the caller remain unchanged, and the view ends with the session.
     *
     * @param session of the caller
     * @param events returns all events of the lake, read in the given session
     * @param fields how they reach fields
     * @param name of the lake, in reports
     */
    public static LakeStatements over(
            SparkSession session, Function<SparkSession, Dataset<Row>> events, FieldColumns fields, String name) {
        SparkSession own = session.newSession();
        own.conf().set("spark.sql.ansi.enabled", "true");
        own.conf().set("spark.sql.ansi.doubleQuotedIdentifiers", "true");
        own.conf().set("spark.sql.session.timeZone", "UTC");
        events.apply(own).createOrReplaceTempView(VIEW);
        EventFunctions.register(own);
        return new LakeStatements(own, fields, name);
    }

    @Override
    public String table() {
        return VIEW;
    }

    @Override
    public FieldColumns fields() {
        return fields;
    }

    /** Also true for a row without an event, which is reported as damaged when it is read. */
    @Override
    public Sql matches(Condition condition) {
        return Sql.of("coalesce(").then(surely(condition)).then(", true)");
    }

    private static Sql surely(Condition condition) {
        return Sql.of(EventFunctions.MATCHES + "(?, \"line\")", condition.toString());
    }

    /** Returns the rows whose events match a condition. */
    public Dataset<Row> events(Condition condition) {
        Sql all = Sql.of("select * from " + VIEW);
        return dataset(
                condition.isEverything()
                        ? all
                        : all.then(" where ")
                                .then(Sql.all(List.of(TablePlan.matching(condition, fields), surely(condition)))));
    }

    @Override
    public String seconds(String time) {
        return "unix_seconds(" + time + ")";
    }

    /** Returns the rows of a statement, which is executed when they are needed. */
    public Dataset<Row> dataset(Sql asked) {
        // By name: Spark does not take values without names in the order of the text if a statement has several parts.
        StringBuilder text = new StringBuilder();
        Map<String, Object> values = new HashMap<>();
        for (char c : asked.text().toCharArray()) {
            if (c == '?') {
                String name = "value" + values.size();
                Object value = asked.values().get(values.size());
                values.put(name, value instanceof OffsetDateTime time ? time.toInstant() : value);
                text.append(':').append(name);
            } else {
                text.append(c);
            }
        }
        return session.sql(text.toString(), values);
    }

    @Override
    public ReturnedRows ask(Sql asked, CoverageBuilder coverage) throws IOException {
        SparkContext spark = session.sparkContext();
        String group = "graphema-" + UUID.randomUUID();
        Future<?> watch = Cancelling.watch(coverage, () -> spark.cancelJobGroup(group));
        spark.setJobGroup(group, "Graphema asks " + name, true);
        try {
            return new Returned(dataset(asked).toLocalIterator(), coverage, watch);
        } catch (Exception e) { // Spark also throws checked exceptions that it does not declare
            watch.cancel(false);
            if (coverage.isStopped()) {
                return null;
            }
            throw failure(e);
        } finally {
            spark.clearJobGroup();
        }
    }

    private static IOException failure(Exception problem) {
        String message = null;
        Throwable last = problem;
        for (Throwable each = problem; each != null; each = each.getCause()) {
            boolean isDescribed = each.getMessage() != null && each.getMessage().startsWith("[");
            message = isDescribed ? each.getMessage() : message; // Spark's own description has the file
            last = each;
        }
        String described = message != null
                ? message
                : last instanceof IOException io ? ReadErrors.of(io) : String.valueOf(last.getMessage());
        return new IOException(described.lines().findFirst().orElse(last.toString()), problem);
    }

    @Override
    public String toString() {
        return "lake " + name;
    }

    private final class Returned implements ReturnedRows {
        private final Iterator<Row> rows;
        private final CoverageBuilder coverage;
        private final Future<?> watch;
        private Row row;

        Returned(Iterator<Row> rows, CoverageBuilder coverage, Future<?> watch) {
            this.rows = rows;
            this.coverage = coverage;
            this.watch = watch;
        }

        @Override
        public boolean next() throws IOException {
            try {
                row = rows.hasNext() ? rows.next() : null;
                return row != null;
            } catch (Exception e) { // as above
                if (coverage.isStopped()) {
                    return false; // its job was cancelled
                }
                throw failure(e);
            }
        }

        @Override
        public long number(int column) {
            Object value = row.get(column - 1);
            return value == null ? 0 : ((Number) value).longValue();
        }

        @Override
        public String text(int column) {
            return row.getString(column - 1);
        }

        @Override
        public Instant time(int column) {
            Object value = row.get(column - 1);
            return value instanceof Timestamp time ? time.toInstant() : (Instant) value;
        }

        @Override
        public void close() {
            watch.cancel(false);
        }
    }
}
