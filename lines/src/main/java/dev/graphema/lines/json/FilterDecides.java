package dev.graphema.lines.json;

import dev.graphema.condition.Accepted;
import dev.graphema.condition.Name;
import dev.graphema.condition.Resolved;
import dev.graphema.condition.TextRule;
import dev.graphema.event.Attribute;
import java.util.List;

/**
 * Determines whether a {@link FilterOfCondition} is exact for lines in Graphema JSON. It is for comparisons of levels
 * only.
 */
final class FilterDecides implements Resolved.Fold<Boolean> {
    @Override
    public Boolean all(List<Boolean> parts) {
        return !parts.contains(false);
    }

    @Override
    public Boolean any(List<Boolean> parts) {
        return !parts.contains(false);
    }

    @Override
    public Boolean not(Boolean part) {
        return false;
    }

    @Override
    public Boolean present(Name name) {
        return false;
    }

    @Override
    public Boolean value(Name name, Accepted accepted) {
        return name.attribute() == Attribute.LEVEL && accepted.levels() != null;
    }

    @Override
    public Boolean text(TextRule rule) {
        return false;
    }
}
