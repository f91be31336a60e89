package dev.graphema.sql.source;

import dev.graphema.condition.Name;
import dev.graphema.event.Event;
import dev.graphema.query.Ask;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.partial.CellCounts;
import dev.graphema.query.partial.FirstEvents;
import dev.graphema.query.partial.Partial;
import dev.graphema.query.partial.StepCounts;
import dev.graphema.query.partial.ValueCounts;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.Part;
import dev.graphema.query.source.Rows;
import dev.graphema.query.source.Scan;
import java.io.IOException;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.Predicate;

/** Rows of a table that match a condition in SQL, of which the database counts and selects what it can. */
final class SqlPart implements Part {
    private static final String IN_ORDER =
            " order by " + EventColumns.TIME + ", " + EventColumns.NANOS + ", " + EventColumns.NUMBER;
    private static final String NEWEST_FIRST = " order by " + EventColumns.TIME + " desc, " + EventColumns.NANOS
            + " desc, " + EventColumns.NUMBER + " desc";
    private static final Sql UNSAMPLED = Sql.of(EventColumns.WEIGHT + " = 1");
    private static final Sql SAMPLED = Sql.of(EventColumns.WEIGHT + " <> 1");
    private static final long SECOND = 1_000_000_000L;

    /** A step of time is counted in so many pieces, so that it can be put together of them. */
    private static final long PIECES = 20_000;

    /** So many events that do not match are counted. */
    private static final int MOST_OTHERS = 1_000_000;

    private static final int MOST_STEPS = 1_000;

    /** The lengths of the pieces in seconds, each a multiple of the previous one. */
    private static final long[] UNITS = {1, 10, 60};

    private final SqlReader reader;

    /** What the part consists of. */
    private final Sql all;

    /** Which of it is wanted. */
    private final Sql where;

    private final Scan scan;
    private final boolean isExact;
    private final Predicate<Event> wanted;

    /**
     * @param all what the part consists of
     * @param wanted which of it is wanted
     * @param isExact whether the rows that match are exactly those that the scan wants
     */
    SqlPart(SqlReader reader, Sql all, Sql wanted, Scan scan, boolean isExact) {
        this(reader, all, Sql.all(List.of(all, wanted)), scan, isExact, event -> true);
    }

    private SqlPart(SqlReader reader, Sql all, Sql where, Scan scan, boolean isExact, Predicate<Event> wanted) {
        this.reader = reader;
        this.all = all;
        this.where = where;
        this.scan = scan;
        this.isExact = isExact;
        this.wanted = wanted;
    }

    /** Returns the part of rows about which the database decides nothing, because their columns are not exact. */
    static SqlPart ofOthers(SqlReader reader, Sql where, Scan scan) {
        return new SqlPart(reader, where, where, scan, false, scan.where()::matches);
    }

    @Override
    public String name() {
        return reader.toString();
    }

    @Override
    public Rows open(CoverageBuilder coverage) throws IOException {
        return rows(where, scan.isInOrder() ? IN_ORDER : "", coverage, () -> others(coverage));
    }

    @Override
    public String explain(Partial<?> partial) {
        Sql asked = asked(partial);
        return (asked == null ? select(EventReading.COLUMNS, where) : asked).toString();
    }

    /** Returns the statement by which the database fills a partial answer; null if it returns events. */
    private Sql asked(Partial<?> partial) {
        if (!isExact) {
            return null;
        }
        if (partial instanceof FirstEvents first) {
            return select(EventReading.COLUMNS, where).then(order(first.asked()));
        }
        List<String> columns = partial instanceof ValueCounts counts ? columns(counts) : null;
        return columns == null ? null : counted(columns);
    }

    /** Returns the statement that counts what was not sampled. */
    private Sql counted(List<String> by) {
        String columns = String.join(", ", by);
        return select(columns + ", count(*)", Sql.all(List.of(where, UNSAMPLED)))
                .then(" group by " + columns);
    }

    private static String order(Ask.Events asked) {
        String order = switch (asked.order()) {
            case OLDEST -> IN_ORDER;
            case NEWEST -> NEWEST_FIRST;
            case FIRST -> " order by " + EventColumns.NUMBER;
            case LAST -> " order by " + EventColumns.NUMBER + " desc";
        };
        return order + " limit " + asked.limit();
    }

    private SqlRows rows(Sql condition, String order, CoverageBuilder coverage, SqlRows.WithoutRows otherwise)
            throws IOException {
        Sql asked = select(EventReading.COLUMNS, condition).then(order);
        return new SqlRows(reader, asked, new EventReading(), wanted, scan.projection(), coverage, otherwise);
    }

    /** Counts what was not wanted if nothing was, so that an answer without events says whether there are others. */
    private void others(CoverageBuilder coverage) throws IOException {
        coverage.excluded(reader.number(
                Sql.of("select count(*) from (select 1 from " + reader.table() + " where ")
                        .then(all)
                        .then(" limit " + MOST_OTHERS + ") as others"),
                coverage));
    }

    private Sql select(String columns, Sql condition) {
        return Sql.of("select " + columns + " from " + reader.table() + " where ")
                .then(condition);
    }

    @Override
    public <A extends Answer> boolean addTo(Partial<A> partial, CoverageBuilder coverage) throws IOException {
        if (!isExact) {
            return false;
        }
        try {
            if (partial instanceof FirstEvents first) {
                first(first, coverage);
                return true;
            }
            if (partial instanceof CellCounts cells) {
                return cells(cells, coverage);
            }
            return partial instanceof ValueCounts counts && values(counts, coverage)
                    || partial instanceof StepCounts steps && steps(steps, coverage);
        } catch (SQLException e) {
            throw reader.failure(e);
        }
    }

    private void first(FirstEvents partial, CoverageBuilder coverage) throws IOException {
        Ask.Events asked = partial.asked();
        long returned;
        try (SqlRows rows = rows(where, order(asked), coverage, () -> others(coverage))) {
            while (rows.advance()) {
                partial.add(rows, rows.position());
            }
            returned = rows.returned();
        }
        if (returned == asked.limit()) {
            long more = Math.max(0, reader.number(select("count(*)", where), coverage) - returned);
            partial.count(more);
            coverage.events(more);
        }
    }

    /** Takes one group of events that the database has counted. */
    private interface Group {
        /** @param rows has the values by which they are grouped, from 1 on */
        void take(ResultSet rows, long count) throws SQLException;
    }

    /**
     * Adds all events: groups of those that were not sampled, as the database counts them, and the others one by one, because their weights
     * and traces decide how certain a count is.
     */
    private void add(List<String> by, Group group, Partial<?> partial, CoverageBuilder coverage)
            throws IOException, SQLException {
        long unsampled = 0;
        try (SqlReader.Answer answer = reader.ask(counted(by), coverage)) {
            if (answer == null) {
                return; // it was stopped
            }
            ResultSet rows = answer.rows();
            while (rows.next() && coverage.bytes(0)) {
                long count = rows.getLong(by.size() + 1);
                group.take(rows, count);
                coverage.events(count);
                unsampled += count;
            }
        }
        SqlRows.WithoutRows otherwise = unsampled > 0 ? () -> {} : () -> others(coverage);
        try (Rows rows = rows(Sql.all(List.of(where, SAMPLED)), "", coverage, otherwise)) {
            while (rows.advance()) {
                partial.add(rows, rows.position());
            }
        }
    }

    private boolean values(ValueCounts partial, CoverageBuilder coverage) throws IOException, SQLException {
        List<String> columns = columns(partial);
        if (columns == null) {
            return false;
        }
        add(
                columns,
                (rows, count) -> partial.cell(Arrays.asList(texts(rows, 1, columns.size())))
                        .add(count),
                partial,
                coverage);
        return true;
    }

    private boolean steps(StepCounts partial, CoverageBuilder coverage) throws IOException, SQLException {
        Ask.TimeSteps asked = partial.asked();
        String by = asked.by() == null ? null : EventColumns.counted(asked.by().attribute());
        if (asked.by() != null && by == null || asked.most() > MOST_STEPS) {
            return false;
        }
        long unit = unit(asked.step(), coverage);
        if (unit == 0) {
            return false;
        }
        add(
                by == null ? List.of(piece(unit)) : List.of(piece(unit), by),
                (rows, count) -> partial.add(time(rows, unit), by == null ? null : rows.getString(2), count),
                partial,
                coverage);
        return true;
    }

    private boolean cells(CellCounts partial, CoverageBuilder coverage) throws IOException, SQLException {
        Ask.TimeCells asked = partial.asked();
        List<String> columns = columns(partial.places());
        if (columns.contains(null) || asked.most() > MOST_STEPS) {
            return false;
        }
        long unit = unit(asked.step(), coverage);
        if (unit == 0) {
            return false;
        }
        List<String> by = new ArrayList<>(List.of(piece(unit), EventColumns.LEVEL));
        by.addAll(columns);
        add(
                by,
                (rows, count) -> partial.addUnsampled(
                        time(rows, unit),
                        partial.row((Object[]) texts(rows, 3, columns.size())),
                        CellCounts.kind(rows.getString(2)),
                        count),
                partial,
                coverage);
        return true;
    }

    /** Returns the begin of the piece of time in the first column, in nanoseconds since 1970. */
    private static long time(ResultSet rows, long unit) throws SQLException {
        return rows.getBigDecimal(1).longValueExact() * unit * SECOND;
    }

    private static String[] texts(ResultSet rows, int first, int count) throws SQLException {
        String[] texts = new String[count];
        for (int i = 0; i < count; i++) {
            texts[i] = rows.getString(first + i);
        }
        return texts;
    }

    /** Returns the number of the piece of time that an event is in, of pieces of a length in seconds. */
    private static String piece(long unit) {
        // Not a parameter: the database would not see that what it groups by is what it selects.
        return "floor(extract(epoch from " + EventColumns.TIME + ") / " + unit + ")";
    }

    /** Returns the length of the pieces to be counted, in seconds; 0 if the events are needed. */
    private long unit(Duration step, CoverageBuilder coverage) throws IOException {
        List<Long> ends = reader.numbers(
                select(
                        "coalesce(floor(extract(epoch from min(%1$s))), 0), coalesce(floor(extract(epoch from max(%1$s))), 0)"
                                .formatted(EventColumns.TIME),
                        where),
                coverage);
        if (ends.isEmpty()) {
            return 0;
        }
        long seconds = ends.get(1) - ends.get(0);
        long unit = 0;
        for (long each : UNITS) {
            boolean isPiece = step == null || step.getNano() == 0 && step.getSeconds() % each == 0;
            unit = isPiece && seconds / each >= PIECES ? each : unit;
        }
        return unit;
    }

    /** Returns the columns by whose values the database counts; null if the events are needed. */
    private List<String> columns(ValueCounts partial) {
        List<String> columns = columns(partial.places());
        return partial.countsCombinations() && partial.measured() < 0 && !columns.contains(null) ? columns : null;
    }

    /** Returns the columns of values in rows; null for those that have none. */
    private List<String> columns(int[] places) {
        List<Name> names = scan.projection().listed();
        List<String> columns = new ArrayList<>();
        for (int place : places) {
            columns.add(EventColumns.counted(names.get(place).attribute()));
        }
        return columns;
    }
}
