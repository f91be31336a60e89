package dev.graphema.sql.table;

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
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.Predicate;

/** Rows of a table that match a condition in SQL, of which the database counts and selects what it can. */
final class TablePart implements Part {
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

    private final Statements statements;

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
    TablePart(Statements statements, Sql all, Sql wanted, Scan scan, boolean isExact) {
        this(statements, all, Sql.all(List.of(all, wanted)), scan, isExact, event -> true);
    }

    private TablePart(Statements statements, Sql all, Sql where, Scan scan, boolean isExact, Predicate<Event> wanted) {
        this.statements = statements;
        this.all = all;
        this.where = where;
        this.scan = scan;
        this.isExact = isExact;
        this.wanted = wanted;
    }

    /** Returns the part of rows about which the database decides nothing, because their columns are not exact. */
    static TablePart ofOthers(Statements statements, Sql where, Scan scan) {
        return new TablePart(statements, where, where, scan, false, scan.where()::matches);
    }

    @Override
    public String name() {
        return statements.toString();
    }

    @Override
    public Rows open(CoverageBuilder coverage) throws IOException {
        return rows(where, scan.isInOrder() ? IN_ORDER : "", coverage, () -> others(coverage));
    }

    @Override
    public String explain(Partial<?> partial) {
        List<String> byTime = isExact ? byTime(partial) : null;
        if (byTime != null) {
            return ends() + "; then, if this is a long time, " + counted(byTime);
        }
        Sql asked = asked(partial);
        return (asked == null ? select(EventReading.COLUMNS, where) : asked).toString();
    }

    /** Returns the columns by which the steps of time of a partial answer are counted; null if it has none, or not by columns. */
    private List<String> byTime(Partial<?> partial) {
        List<String> by = partial instanceof StepCounts steps
                ? by(steps)
                : partial instanceof CellCounts cells ? by(cells) : null;
        if (by != null) {
            by.add(0, piece(UNITS[0]));
        }
        return by;
    }

    /** Returns the columns by which steps are counted beside the time; null if the database cannot. */
    private static List<String> by(StepCounts partial) {
        Ask.TimeSteps asked = partial.asked();
        String by = asked.by() == null ? null : EventColumns.counted(asked.by().attribute());
        boolean isCounted = (asked.by() == null || by != null) && asked.most() <= MOST_STEPS;
        return isCounted ? new ArrayList<>(by == null ? List.of() : List.of(by)) : null;
    }

    /** As above, for cells. */
    private List<String> by(CellCounts partial) {
        List<String> columns = columns(partial.places());
        if (columns.contains(null) || partial.asked().most() > MOST_STEPS) {
            return null;
        }
        columns.add(0, EventColumns.LEVEL);
        return columns;
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

    private TableRows rows(Sql condition, String order, CoverageBuilder coverage, TableRows.WithoutRows otherwise)
            throws IOException {
        Sql asked = select(EventReading.COLUMNS, condition).then(order);
        ReturnedRows answer = statements.ask(asked, coverage);
        return new TableRows(
                statements, answer, new EventReading(answer), wanted, scan.projection(), coverage, otherwise);
    }

    /** Counts what was not wanted if nothing was, so that an answer without events says whether there are others. */
    private void others(CoverageBuilder coverage) throws IOException {
        coverage.excluded(statements.number(
                Sql.of("select count(*) from (select 1 from " + statements.table() + " where ")
                        .then(all)
                        .then(" limit " + MOST_OTHERS + ") as others"),
                coverage));
    }

    private Sql select(String columns, Sql condition) {
        return Sql.of("select " + columns + " from " + statements.table() + " where ")
                .then(condition);
    }

    @Override
    public <A extends Answer> boolean addTo(Partial<A> partial, CoverageBuilder coverage) throws IOException {
        if (!isExact) {
            return false;
        }
        if (partial instanceof FirstEvents first) {
            first(first, coverage);
            return true;
        }
        if (partial instanceof CellCounts cells) {
            return cells(cells, coverage);
        }
        return partial instanceof ValueCounts counts && values(counts, coverage)
                || partial instanceof StepCounts steps && steps(steps, coverage);
    }

    private void first(FirstEvents partial, CoverageBuilder coverage) throws IOException {
        Ask.Events asked = partial.asked();
        long returned;
        try (TableRows rows = rows(where, order(asked), coverage, () -> others(coverage))) {
            while (rows.advance()) {
                partial.add(rows, rows.position());
            }
            returned = rows.returned();
        }
        if (returned == asked.limit()) {
            long more = Math.max(0, statements.number(select("count(*)", where), coverage) - returned);
            partial.count(more);
            coverage.events(more);
        }
    }

    /** Takes one group of events that the database has counted. */
    private interface Group {
        /** @param rows has the values by which they are grouped, from 1 on */
        void take(ReturnedRows rows, long count) throws IOException;
    }

    /**
     * Adds all events: groups of those that were not sampled, as the database counts them, and the others one by one, because their weights
     * and traces decide how certain a count is.
     */
    private void add(List<String> by, Group group, Partial<?> partial, CoverageBuilder coverage) throws IOException {
        long unsampled = 0;
        try (ReturnedRows rows = statements.ask(counted(by), coverage)) {
            if (rows == null) {
                return; // it was stopped
            }
            while (rows.next() && coverage.bytes(0)) {
                long count = rows.number(by.size() + 1);
                group.take(rows, count);
                coverage.events(count);
                unsampled += count;
            }
        }
        TableRows.WithoutRows otherwise = unsampled > 0 ? () -> {} : () -> others(coverage);
        try (Rows rows = rows(Sql.all(List.of(where, SAMPLED)), "", coverage, otherwise)) {
            while (rows.advance()) {
                partial.add(rows, rows.position());
            }
        }
    }

    private boolean values(ValueCounts partial, CoverageBuilder coverage) throws IOException {
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

    private boolean steps(StepCounts partial, CoverageBuilder coverage) throws IOException {
        List<String> by = by(partial);
        long unit = by == null ? 0 : unit(partial.asked().step(), coverage);
        if (unit == 0) {
            return false;
        }
        boolean isByValue = !by.isEmpty();
        by.add(0, piece(unit));
        add(
                by,
                (rows, count) -> partial.add(time(rows, unit), isByValue ? rows.text(2) : null, count),
                partial,
                coverage);
        return true;
    }

    private boolean cells(CellCounts partial, CoverageBuilder coverage) throws IOException {
        List<String> by = by(partial);
        long unit = by == null ? 0 : unit(partial.asked().step(), coverage);
        if (unit == 0) {
            return false;
        }
        by.add(0, piece(unit));
        add(
                by,
                (rows, count) -> partial.addUnsampled(
                        time(rows, unit),
                        partial.row((Object[]) texts(rows, 3, by.size() - 2)),
                        CellCounts.kind(rows.text(2)),
                        count),
                partial,
                coverage);
        return true;
    }

    /** Returns the begin of the piece of time in the first column, in nanoseconds since 1970. */
    private static long time(ReturnedRows rows, long unit) throws IOException {
        return rows.number(1) * unit * SECOND;
    }

    private static String[] texts(ReturnedRows rows, int first, int count) throws IOException {
        String[] texts = new String[count];
        for (int i = 0; i < count; i++) {
            texts[i] = rows.text(first + i);
        }
        return texts;
    }

    /** Returns the number of the piece of time that an event is in, of pieces of a length in seconds. */
    private String piece(long unit) {
        // Not a parameter: the database would not see that what it groups by is what it selects.
        return "floor(" + statements.seconds(EventColumns.TIME) + " / " + unit + ")";
    }

    /** Returns the statement for the seconds of the oldest and the newest event. */
    private Sql ends() {
        String seconds = "coalesce(floor(" + statements.seconds("%s(" + EventColumns.TIME + ")") + "), 0)";
        return select(seconds.formatted("min") + ", " + seconds.formatted("max"), where);
    }

    /** Returns the length of the pieces to be counted, in seconds; 0 if the events are needed. */
    private long unit(Duration step, CoverageBuilder coverage) throws IOException {
        List<Long> ends = statements.numbers(ends(), 2, coverage);
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
