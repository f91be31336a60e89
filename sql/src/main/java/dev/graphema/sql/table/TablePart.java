package dev.graphema.sql.table;

import dev.graphema.condition.Name;
import dev.graphema.event.Attribute;
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

    /** The least number of pieces of time that are counted; steps are composed of them. */
    private static final long PIECES = 20_000;

    /** The most events that do not match and are counted. */
    private static final int MOST_OTHERS = 1_000_000;

    private static final int MOST_STEPS = 1_000;

    /** The lengths of the pieces in seconds, each a multiple of the previous one. */
    private static final long[] UNITS = {1, 10, 60};

    private final Statements statements;
    private final FieldColumns fields;

    /** What the part consists of. */
    private final Sql all;

    /** Which of it may be wanted. */
    private final Sql possible;

    /** The rows whose events must be examined. */
    private final Sql undecided;

    private final Scan scan;
    private final boolean isExact;
    private final Predicate<Event> wanted;

    /**
     * @param all what the part consists of
     * @param possible which of it may be wanted
     * @param undecided rows whose events must be examined
     * @param isExact whether all others of these rows are wanted
     */
    TablePart(
            Statements statements,
            FieldColumns fields,
            Sql all,
            Sql possible,
            Sql undecided,
            Scan scan,
            boolean isExact) {
        this.statements = statements;
        this.fields = fields;
        this.all = all;
        this.possible = possible;
        this.undecided = undecided;
        this.scan = scan;
        this.isExact = isExact;
        this.wanted = undecided.equals(Sql.FALSE) ? event -> true : scan.where()::matches;
    }

    /** Returns the part of rows about which the database decides nothing, because their columns are not exact. */
    static TablePart ofOthers(Statements statements, Sql all, Scan scan) {
        return new TablePart(statements, FieldColumns.NONE, all, Sql.TRUE, Sql.TRUE, scan, false);
    }

    /** Returns the condition for all rows that may be wanted. */
    private Sql where() {
        return Sql.all(List.of(all, possible));
    }

    /** Returns the condition for all rows that are wanted for sure. */
    private Sql sure() {
        return Sql.all(List.of(all, possible, Sql.not(undecided)));
    }

    @Override
    public String name() {
        return statements.toString();
    }

    @Override
    public Rows open(CoverageBuilder coverage) throws IOException {
        return rows(where(), scan.isInOrder() ? IN_ORDER : "", coverage, () -> others(coverage));
    }

    @Override
    public String explain(Partial<?> partial) {
        Grouping byTime = isExact ? byTime(partial) : null;
        if (byTime != null) {
            return ends() + "; then, if this is a long time, " + counted(byTime.with(piece(UNITS[0]), UNITS[0]));
        }
        Sql asked = asked(partial);
        return (asked == null ? select(EventReading.COLUMNS, where()) : asked).toString();
    }

    /** Returns by what the steps of time of a partial answer are counted; null if it has none, or the events are needed. */
    private Grouping byTime(Partial<?> partial) {
        return partial instanceof StepCounts steps ? by(steps) : partial instanceof CellCounts cells ? by(cells) : null;
    }

    /** Returns by what steps are counted; null if the events are needed. */
    private Grouping by(StepCounts partial) {
        Ask.TimeSteps asked = partial.asked();
        Grouping by = grouping(asked.by() == null ? List.of() : List.of(asked.by()));
        return asked.most() <= MOST_STEPS ? by : null;
    }

    /** As above, for cells. */
    private Grouping by(CellCounts partial) {
        List<Name> names = new ArrayList<>(names(partial.places()));
        names.add(0, new Name(Attribute.LEVEL, null));
        return partial.asked().most() <= MOST_STEPS ? grouping(names) : null;
    }

    /** Returns by what values are counted; null if the events are needed. */
    private Grouping by(ValueCounts partial) {
        if (!partial.countsCombinations()) {
            return null;
        }
        Grouping by = grouping(names(partial.places()));
        if (by == null || partial.measured() < 0) {
            return by;
        }
        Name measured = scan.projection().listed().get(partial.measured());
        GroupColumn numbers = measured.attribute() == null ? fields.measured(measured.field()) : null;
        return numbers == null ? null : by.and(numbers);
    }

    /** Returns the grouping by names; null if the events are needed. */
    private Grouping grouping(List<Name> names) {
        List<GroupColumn> columns =
                names.stream().map(name -> GroupColumn.of(name, fields)).toList();
        return columns.contains(null) ? null : new Grouping(columns);
    }

    private List<Name> names(int[] places) {
        List<Name> listed = scan.projection().listed();
        return Arrays.stream(places).mapToObj(listed::get).toList();
    }

    /** Returns the statement by which the database fills a partial answer; null if it returns events. */
    private Sql asked(Partial<?> partial) {
        if (!isExact) {
            return null;
        }
        if (partial instanceof FirstEvents first) {
            return select(EventReading.COLUMNS, sure()).then(order(first.asked()));
        }
        Grouping by = partial instanceof ValueCounts counts ? by(counts) : null;
        return by == null ? null : counted(by);
    }

    /** Returns the statement that counts groups: those of rows that must be examined apart from the others. */
    private Sql counted(Grouping by) {
        String columns = String.join(", ", by.expressions(undecided));
        return select(columns + ", count(*)", where()).then(" group by " + columns);
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

    /** Counts the excluded events if no event matches, so that an answer without events contains whether there are others. */
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
        try (TableRows rows = rows(sure(), order(asked), coverage, () -> others(coverage))) {
            while (rows.advance()) {
                partial.add(rows, rows.position());
            }
            returned = rows.returned();
        }
        if (returned == asked.limit()) {
            long more = Math.max(0, statements.number(select("count(*)", sure()), coverage) - returned);
            partial.count(more);
            coverage.events(more);
        }
        if (!undecided.equals(Sql.FALSE)) {
            addEach(undecided, partial, coverage);
        }
    }

    /** Adds the wanted events of rows one by one. */
    private void addEach(Sql condition, Partial<?> partial, CoverageBuilder coverage) throws IOException {
        try (Rows rows = rows(Sql.all(List.of(where(), condition)), "", coverage, () -> {})) {
            while (rows.advance()) {
                partial.add(rows, rows.position());
            }
        }
    }

    /** Takes one group of events that the database has counted. */
    private interface Group {
        /** @param values by which they are grouped */
        void take(List<Object> values, long count);
    }

    /**
     * Adds all events: groups as the database counts them, and one by one those of rows that are undecided, and those that were sampled, because
     * their weights and traces decide how certain a count is.
     */
    private void add(Grouping by, Group group, Partial<?> partial, CoverageBuilder coverage) throws IOException {
        long counted = 0;
        boolean areApart = false;
        try (ReturnedRows rows = statements.ask(counted(by), coverage)) {
            if (rows == null) {
                return; // it was stopped
            }
            while (rows.next() && coverage.bytes(0)) {
                if (Grouping.isApart(rows)) {
                    areApart = true;
                } else {
                    long count = by.count(rows);
                    group.take(by.values(rows), count);
                    coverage.events(count);
                    counted += count;
                }
            }
        }
        if (areApart) {
            addEach(by.apart(undecided), partial, coverage);
        } else if (counted == 0) {
            others(coverage);
        }
    }

    private boolean values(ValueCounts partial, CoverageBuilder coverage) throws IOException {
        Grouping by = by(partial);
        if (by == null) {
            return false;
        }
        int names = partial.places().length;
        Group group = (values, count) -> {
            ValueCounts.Cell cell = partial.cell(values.subList(0, names));
            cell.add(count);
            if (values.size() > names) {
                cell.measure(values.get(names), count);
            }
        };
        add(by, group, partial, coverage);
        return true;
    }

    private boolean steps(StepCounts partial, CoverageBuilder coverage) throws IOException {
        Grouping by = by(partial);
        long unit = by == null ? 0 : unit(partial.asked().step(), coverage);
        if (unit == 0) {
            return false;
        }
        Group group =
                (values, count) -> partial.add((long) values.get(0), values.size() > 1 ? values.get(1) : null, count);
        add(by.with(piece(unit), unit), group, partial, coverage);
        return true;
    }

    private boolean cells(CellCounts partial, CoverageBuilder coverage) throws IOException {
        Grouping by = by(partial);
        long unit = by == null ? 0 : unit(partial.asked().step(), coverage);
        if (unit == 0) {
            return false;
        }
        Group group = (values, count) -> partial.addUnsampled(
                (long) values.get(0),
                partial.row(values.subList(2, values.size()).toArray()),
                CellCounts.kind((String) values.get(1)),
                count);
        add(by.with(piece(unit), unit), group, partial, coverage);
        return true;
    }

    /** Returns the number of the piece of time that an event is in, of pieces of a length in seconds. */
    private String piece(long unit) {
        // Not a parameter: the database would not see that what it groups by is what it selects.
        return "floor(" + statements.seconds(EventColumns.TIME) + " / " + unit + ")";
    }

    /** Returns the statement for the seconds of the oldest and the newest event. */
    private Sql ends() {
        String seconds = "coalesce(floor(" + statements.seconds("%s(" + EventColumns.TIME + ")") + "), 0)";
        return select(seconds.formatted("min") + ", " + seconds.formatted("max"), where());
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
}
