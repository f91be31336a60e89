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
record PartialEvaluation(Event known) implements Resolved.Fold<Ternary> {
    private static final Set<Attribute> KNOWN = Set.of(Attribute.LEVEL, Attribute.SERVICE, Attribute.INSTANCE);

    @Override
    public Ternary all(List<Ternary> parts) {
        return parts.contains(Ternary.FALSE)
                ? Ternary.FALSE
                : parts.contains(Ternary.UNKNOWN) ? Ternary.UNKNOWN : Ternary.TRUE;
    }

    @Override
    public Ternary any(List<Ternary> parts) {
        return parts.contains(Ternary.TRUE)
                ? Ternary.TRUE
                : parts.contains(Ternary.UNKNOWN) ? Ternary.UNKNOWN : Ternary.FALSE;
    }

    @Override
    public Ternary not(Ternary part) {
        return part.not();
    }

    @Override
    public Ternary present(Name name) {
        return about(name, new Resolved.Present(name));
    }

    @Override
    public Ternary value(Name name, Accepted accepted) {
        return about(name, new Resolved.HasValue(name, accepted));
    }

    @Override
    public Ternary text(TextRule rule) {
        return Ternary.UNKNOWN;
    }

    private Ternary about(Name name, Resolved leaf) {
        boolean isKnown = name.attribute() != null && KNOWN.contains(name.attribute());
        return isKnown ? Ternary.of(leaf.predicate().test(known)) : Ternary.UNKNOWN;
    }
}
