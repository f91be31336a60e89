package dev.graphema.segments.store;

import dev.graphema.condition.Condition;
import dev.graphema.query.Window;
import java.util.Objects;

/**
 * Events that no retention rule deletes. Immutable.
 *
 * @param name its name in reports
 * @param when which events
 * @param during of which time
 */
public record LegalHold(String name, Condition when, Window during) {
    public LegalHold {
        Objects.requireNonNull(name, "name");
        Objects.requireNonNull(when, "when");
        Objects.requireNonNull(during, "during");
    }
}
