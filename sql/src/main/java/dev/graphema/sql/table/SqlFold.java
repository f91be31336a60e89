package dev.graphema.sql.table;

import dev.graphema.condition.Resolved;
import java.util.List;

/** Puts conditions in SQL together. Every leaf is two-valued, also for columns without a value, so that it can be negated. */
public interface SqlFold extends Resolved.Fold<Sql> {
    @Override
    default Sql all(List<Sql> parts) {
        return Sql.all(parts);
    }

    @Override
    default Sql any(List<Sql> parts) {
        return Sql.any(parts);
    }

    @Override
    default Sql not(Sql part) {
        return Sql.not(part);
    }
}
