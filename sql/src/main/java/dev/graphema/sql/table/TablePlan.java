package dev.graphema.sql.table;

import dev.graphema.condition.Condition;
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
        Split split = split(scan.where());
        boolean isExact = split.rest().equals(Resolved.TRUE);
        Sql window = Sql.all(List.of(SqlTimes.during(scan.during()), all));
        List<TablePart> parts = List.of(
                new TablePart(
                        statements,
                        Sql.all(List.of(Sql.of(EventColumns.PLAIN), window)),
                        decided(split),
                        scan,
                        isExact),
                TablePart.ofOthers(statements, Sql.all(List.of(Sql.of("not " + EventColumns.PLAIN), window)), scan));
        return isExact ? Plan.deciding(scan, parts) : Plan.scanning(scan, parts);
    }

    /** Returns what is true for at least all rows whose events match a condition. */
    public static Sql matching(Condition condition) {
        return Sql.any(List.of(Sql.of("not " + EventColumns.PLAIN), decided(split(condition))));
    }

    private static Split split(Condition condition) {
        return Split.of(condition.resolved(), SqlConditions::precision);
    }

    private static Sql decided(Split split) {
        return Sql.all(List.of(
                split.exact().fold(SqlConditions.FOLD), split.approximate().fold(SqlConditions.FOLD)));
    }
}
