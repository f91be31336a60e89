package dev.graphema.spark;

import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.Plan;
import dev.graphema.query.source.Scan;
import dev.graphema.spark.lake.LakeStatements;
import dev.graphema.sql.table.TablePlan;
import java.io.IOException;
import java.util.EnumSet;
import java.util.Objects;
import java.util.Set;

/**
 * The events of a lake. Spark decides all conditions, leaves out files by the window, orders with limits, and counts by attributes and fields;
 * answers of other kinds are made of the events that match. Immutable and thread-safe.
 *
 * <pre>{@code
 * EventSource source = LakeSource.of(Lake.at(session, "/lake/skerry"));
 * }</pre>
 */
public final class LakeSource implements EventSource {
    private final Lake lake;

    /** The files of a moment; null for those that there are when it is asked. */
    private final LakeStatements statements;

    private LakeSource(Lake lake, LakeStatements statements) {
        this.lake = lake;
        this.statements = statements;
    }

    /** Returns the events of a lake. */
    public static LakeSource of(Lake lake) {
        return new LakeSource(Objects.requireNonNull(lake, "lake"), null);
    }

    @Override
    public String name() {
        return lake.toString();
    }

    @Override
    public Set<Capability> capabilities() {
        return EnumSet.of(Capability.ORDER, Capability.REPEATED_READING);
    }

    @Override
    public EventSource snapshot() throws IOException {
        return new LakeSource(lake, lake.statements());
    }

    @Override
    public Plan plan(Scan scan, CoverageBuilder coverage) throws IOException {
        return TablePlan.of(statements == null ? lake.statements() : statements, scan, Lake.days(scan.during()));
    }
}
