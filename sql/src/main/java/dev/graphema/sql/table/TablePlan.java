package dev.graphema.sql.table;

import dev.graphema.condition.Resolved;
import dev.graphema.condition.Split;
import dev.graphema.query.source.Plan;
import dev.graphema.query.source.Scan;
import java.util.List;

/** How a table of events is read: what is decided in SQL, and what is left to the executor. */
public final class TablePlan {
    private TablePlan() {}

    /**
     * Returns the plan for a scan.
     *
     * @param all restricts the rows that there are, such as to those of a certain moment
     */
    public static Plan of(Statements statements, Scan scan, Sql all) {
        Split split = Split.of(scan.where().resolved(), SqlConditions::precision);
        boolean isExact = split.rest().equals(Resolved.TRUE);
        Sql window = Sql.all(List.of(SqlTimes.during(scan.during()), all));
        Sql wanted = Sql.all(List.of(
                split.exact().fold(SqlConditions.FOLD), split.approximate().fold(SqlConditions.FOLD)));
        List<TablePart> parts = List.of(
                new TablePart(statements, Sql.all(List.of(Sql.of(EventColumns.PLAIN), window)), wanted, scan, isExact),
                TablePart.ofOthers(statements, Sql.all(List.of(Sql.of("not " + EventColumns.PLAIN), window)), scan));
        return isExact ? Plan.deciding(scan, parts) : Plan.scanning(scan, parts);
    }
}
