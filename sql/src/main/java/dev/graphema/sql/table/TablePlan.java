package dev.graphema.sql.table;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Resolved;
import dev.graphema.condition.Split;
import dev.graphema.query.source.Plan;
import dev.graphema.query.source.Scan;
import java.io.IOException;
import java.util.List;

/** How a table of events is read: what is decided in SQL, and what is left to the executor. */
public final class TablePlan {
    private static final Sql PLAIN = Sql.of(EventColumns.PLAIN);
    private static final Sql NOT_PLAIN = Sql.of("not " + EventColumns.PLAIN);

    private TablePlan() {}

    /**
     * Returns the plan for a scan.
     *
     * @param all restricts the rows that there are, such as to those of a certain moment
     * @throws IOException if the table cannot be read
     */
    public static Plan of(Statements statements, Scan scan, Sql all) throws IOException {
        FieldColumns fields = statements.fields();
        SqlConditions conditions = new SqlConditions(fields);
        Split split = conditions.split(scan.where());
        Sql possible = conditions.possible(split);
        Sql undecided = conditions.undecided(split);
        boolean isExact = split.rest().equals(Resolved.TRUE);
        Sql matches = isExact ? null : statements.matches(scan.where());
        if (matches != null) {
            possible = Sql.all(List.of(possible, matches));
            undecided = Sql.FALSE;
            isExact = true;
        }
        Sql window = Sql.all(List.of(SqlTimes.during(scan.during()), all));
        List<TablePart> parts = List.of(
                new TablePart(statements, fields, Sql.all(List.of(PLAIN, window)), possible, undecided, scan, isExact),
                TablePart.ofOthers(statements, Sql.all(List.of(NOT_PLAIN, window)), scan));
        return isExact ? Plan.deciding(scan, parts) : Plan.scanning(scan, parts);
    }

    /** Returns what is true for at least all rows whose events match a condition. */
    public static Sql matching(Condition condition, FieldColumns fields) {
        SqlConditions conditions = new SqlConditions(fields);
        Split split = conditions.split(condition);
        return Sql.any(List.of(NOT_PLAIN, conditions.possible(split)));
    }
}
