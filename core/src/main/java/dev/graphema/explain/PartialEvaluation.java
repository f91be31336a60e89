package dev.graphema.explain;

import dev.graphema.condition.Accepted;
import dev.graphema.condition.Name;
import dev.graphema.condition.Resolved;
import dev.graphema.condition.TextRule;
import dev.graphema.event.Attribute;
import dev.graphema.event.Event;
import java.util.List;
import java.util.Set;

/**
 * Evaluates a condition when only level, service and instance of the event are known, by Kleene's three-valued logic.
 *
 * @param known an event with these attributes
 */
record PartialEvaluation(Event known) implements Resolved.Fold<Truth> {
    private static final Set<Attribute> KNOWN = Set.of(Attribute.LEVEL, Attribute.SERVICE, Attribute.INSTANCE);

    @Override
    public Truth all(List<Truth> parts) {
        return parts.contains(Truth.FALSE) ? Truth.FALSE : parts.contains(Truth.UNKNOWN) ? Truth.UNKNOWN : Truth.TRUE;
    }

    @Override
    public Truth any(List<Truth> parts) {
        return parts.contains(Truth.TRUE) ? Truth.TRUE : parts.contains(Truth.UNKNOWN) ? Truth.UNKNOWN : Truth.FALSE;
    }

    @Override
    public Truth not(Truth part) {
        return part.not();
    }

    @Override
    public Truth present(Name name) {
        return about(name, new Resolved.Present(name));
    }

    @Override
    public Truth value(Name name, Accepted accepted) {
        return about(name, new Resolved.HasValue(name, accepted));
    }

    @Override
    public Truth text(TextRule rule) {
        return Truth.UNKNOWN;
    }

    private Truth about(Name name, Resolved leaf) {
        boolean isKnown = name.attribute() != null && KNOWN.contains(name.attribute());
        return isKnown ? Truth.of(leaf.predicate().test(known)) : Truth.UNKNOWN;
    }
}
