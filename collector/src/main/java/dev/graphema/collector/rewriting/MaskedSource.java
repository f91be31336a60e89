package dev.graphema.collector.rewriting;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Expression;
import dev.graphema.event.Event;
import dev.graphema.query.row.Projection;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.ForwardingRows;
import dev.graphema.query.source.Part;
import dev.graphema.query.source.Plan;
import dev.graphema.query.source.Rows;
import dev.graphema.query.source.Scan;
import dev.graphema.query.source.SeveralSources;
import java.io.IOException;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;

/**
 * The events of a source for a reader who may not see all values. Conditions, counts and lists of values see the masked events, so
 * that no question reveals more than the events themselves. Immutable.
 */
public final class MaskedSource implements EventSource {
    private final EventSource source;
    private final Condition visible;
    private final UnaryOperator<Event> mask;

    /**
     * @param visible which events there are, by their real values
     * @param mask changes fields only
     */
    public MaskedSource(EventSource source, Condition visible, UnaryOperator<Event> mask) {
        this.source = source;
        this.visible = visible;
        this.mask = mask;
    }

    @Override
    public String name() {
        return source.name();
    }

    @Override
    public Set<Capability> capabilities() {
        Set<Capability> capabilities = EnumSet.copyOf(source.capabilities());
        capabilities.remove(Capability.LIVE);
        return capabilities;
    }

    @Override
    public EventSource snapshot() throws IOException {
        return new MaskedSource(source.snapshot(), visible, mask);
    }

    @Override
    public Plan plan(Scan scan, CoverageBuilder coverage) throws IOException {
        Projection needed = scan.projection().and(Projection.of(scan.where()));
        Condition sooner = visible.and(ofAttributes(scan.where().expression()));
        // Several sources decide all of a condition, also what a single one leaves to others.
        Plan plan = new SeveralSources(List.of(source))
                .plan(new Scan(sooner, scan.during(), needed, scan.isInOrder()), coverage);
        List<Part> parts = new ArrayList<>();
        plan.parts().forEach(part -> parts.add(new MaskedPart(part, scan.projection())));
        return Plan.scanning(scan, parts);
    }

    /** Returns the parts of a condition, of which an event must match all, that no mask can change. */
    private static Condition ofAttributes(Expression expression) {
        if (expression instanceof Expression.And and) {
            Condition all = Condition.EVERYTHING;
            for (Expression each : and.parts()) {
                all = all.and(ofAttributes(each));
            }
            return all;
        }
        Condition condition = Condition.of(expression);
        boolean isOfAttributes = !Projection.of(condition).isAll()
                && condition.names().stream().allMatch(name -> name.attribute() != null);
        return isOfAttributes ? condition : Condition.EVERYTHING;
    }

    private final class MaskedPart implements Part {
        private final Part part;
        private final Projection projection;

        MaskedPart(Part part, Projection projection) {
            this.part = part;
            this.projection = projection;
        }

        @Override
        public int unit() {
            return part.unit();
        }

        @Override
        public String name() {
            return part.name();
        }

        @Override
        public Rows open(CoverageBuilder coverage) throws IOException {
            return new MaskedRows(part.open(coverage), projection);
        }
    }

    private final class MaskedRows extends ForwardingRows {
        private final Projection projection;
        private Event masked;

        MaskedRows(Rows rows, Projection projection) {
            super(rows);
            this.projection = projection;
        }

        @Override
        public boolean advance() throws IOException {
            masked = null;
            return super.advance();
        }

        @Override
        public Object value(int index) {
            return projection.value(index, event());
        }

        @Override
        public Event event() {
            if (masked == null) {
                masked = mask.apply(super.event());
            }
            return masked;
        }

        @Override
        public Supplier<Event> keep() {
            Supplier<Event> kept = super.keep();
            return () -> {
                Event event = kept.get();
                return event == null ? null : mask.apply(event);
            };
        }
    }
}
