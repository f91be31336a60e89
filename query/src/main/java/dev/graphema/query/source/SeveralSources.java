package dev.graphema.query.source;

import dev.graphema.condition.Condition;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.partial.Partial;
import java.io.IOException;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;

/**
 * Several sources, which are asked as one. It can do what all of them can. A source that cannot be read at all is stated in
 * the answer, and the others are read. Immutable.
 */
public final class SeveralSources implements EventSource {
    private final List<EventSource> sources;

    /** @param sources the sources; events of the same time are in their order */
    public SeveralSources(List<? extends EventSource> sources) {
        this.sources = List.copyOf(sources);
    }

    @Override
    public Set<Capability> capabilities() {
        Set<Capability> common = EnumSet.allOf(Capability.class);
        sources.forEach(each -> common.retainAll(each.capabilities()));
        return common;
    }

    /** A source that cannot be read now is kept unchanged, and stated in the answer when it is read. */
    @Override
    public EventSource snapshot() {
        return new SeveralSources(
                sources.stream().map(SeveralSources::snapshotOf).toList());
    }

    private static EventSource snapshotOf(EventSource source) {
        try {
            return source.snapshot();
        } catch (IOException e) {
            return source;
        }
    }

    @Override
    public Plan plan(Scan scan, CoverageBuilder coverage) {
        List<Part> parts = new ArrayList<>();
        int firstUnit = 0;
        for (EventSource source : sources) {
            try {
                Plan plan = source.plan(scan, coverage);
                int units = 0;
                for (Part part : plan.parts()) {
                    units = Math.max(units, part.unit() + part.units());
                    parts.add(new Shifted(part, firstUnit, plan.remaining()));
                }
                firstUnit += units;
            } catch (IOException e) {
                coverage.failed(source.name(), "cannot be read: " + ReadErrors.of(e));
            }
        }
        return Plan.deciding(scan, parts);
    }

    @Override
    public Following follow(Condition where) throws IOException {
        List<Following> all = new ArrayList<>();
        for (EventSource source : sources) {
            all.add(source.follow(where));
        }
        return new Followings(all);
    }

    /** A part whose unit follows those of the sources before, and which applies what its source left of the condition. */
    private record Shifted(Part part, int firstUnit, Condition remaining) implements Part {
        @Override
        public int unit() {
            return firstUnit + part.unit();
        }

        @Override
        public Rows open(CoverageBuilder coverage) throws IOException {
            Rows rows = part.open(coverage);
            return remaining.isEverything() ? rows : new FilteredRows(rows, remaining);
        }

        @Override
        public <A extends Answer> boolean addTo(Partial<A> partial, CoverageBuilder coverage) throws IOException {
            long by = (long) firstUnit << ParallelScan.POSITION_BITS;
            partial.shift(by);
            try {
                return part.addTo(partial, coverage);
            } finally {
                partial.shift(-by);
            }
        }

        @Override
        public int units() {
            return part.units();
        }

        @Override
        public String explain(Partial<?> partial) {
            return part.explain(partial);
        }

        @Override
        public String name() {
            return part.name();
        }
    }

    private record Followings(List<Following> all) implements Following {
        @Override
        public boolean poll(Listener listener) throws IOException {
            boolean goesOn = false;
            for (Following each : all) {
                goesOn |= each.poll(listener);
            }
            return goesOn;
        }

        @Override
        public Coverage coverage() {
            CoverageBuilder sum = new CoverageBuilder(Control.NONE);
            all.forEach(each -> sum.add(each.coverage()));
            return sum.coverage();
        }

        @Override
        public void close() throws IOException {
            for (Following each : all) {
                each.close();
            }
        }
    }
}
