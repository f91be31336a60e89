package dev.graphema.sql.table;

import dev.graphema.query.Window;
import dev.graphema.text.Times;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;

/** Times in SQL: databases count microseconds, and the nanoseconds behind them are in a column of their own. */
final class SqlTimes {
    private static final long MICRO = 1_000;

    private SqlTimes() {}

    /** Returns the condition for times in a window. */
    static Sql during(Window window) {
        List<Sql> parts = new ArrayList<>();
        if (window.from() != Long.MIN_VALUE) {
            parts.add(from(window.from(), true));
        }
        if (window.to() != Long.MAX_VALUE) {
            parts.add(to(window.to(), true));
        }
        return Sql.all(parts);
    }

    static Sql from(long epochNanos, boolean includes) {
        return bound(epochNanos, ">", includes);
    }

    static Sql to(long epochNanos, boolean includes) {
        return bound(epochNanos, "<", includes);
    }

    private static Sql bound(long epochNanos, String relation, boolean includes) {
        OffsetDateTime micros = micros(epochNanos);
        return Sql.of(
                "%1$s %3$s= ? and (%1$s %3$s ? or %2$s %3$s%4$s ?)"
                        .formatted(EventColumns.TIME, EventColumns.NANOS, relation, includes ? "=" : ""),
                micros,
                micros,
                nanos(epochNanos));
    }

    private static OffsetDateTime micros(long epochNanos) {
        return OffsetDateTime.ofInstant(Times.instant(epochNanos - nanos(epochNanos)), ZoneOffset.UTC);
    }

    private static int nanos(long epochNanos) {
        return (int) Math.floorMod(epochNanos, MICRO);
    }
}
