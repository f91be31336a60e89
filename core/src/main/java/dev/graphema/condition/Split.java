package dev.graphema.condition;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;

/**
 * A condition divided into what a source decides and what remains. An event matches the condition exactly if it matches
 * {@code exact} and {@code rest}; every such event also matches {@code approximate}. A source that evaluates {@code exact} and
 * {@code approximate} therefore leaves out no event that matches.
 *
 * @param exact the part that the source decides exactly
 * @param approximate a weaker form of the rest, which the source can decide, and which may accept more events
 * @param rest the part to be evaluated for each event that the source returns
 */
public record Split(Resolved exact, Resolved approximate, Resolved rest) {
    /** How precisely a source decides a leaf of the tree. */
    public enum Precision {
        /** As the language defines. */
        EXACT,
        /** It may accept more events, but not fewer. */
        APPROXIMATE,
        /** Not at all. */
        NONE
    }

    /**
     * Divides a condition.
     *
     * @param precision what the source does with a leaf: a {@link Resolved.Present}, {@link Resolved.HasValue} or {@link
     *     Resolved.HasText}
     */
    public static Split of(Resolved condition, Function<Resolved, Precision> precision) {
        List<Resolved> exact = new ArrayList<>();
        List<Resolved> approximate = new ArrayList<>();
        List<Resolved> rest = new ArrayList<>();
        for (Resolved part : conjuncts(condition)) {
            Bound bound = part.fold(new Bounds(precision));
            if (bound.weaker().equals(bound.stronger())) {
                exact.add(part);
            } else {
                approximate.add(bound.weaker());
                rest.add(part);
            }
        }
        return new Split(Resolved.all(exact), Resolved.all(approximate), Resolved.all(rest));
    }

    private static List<Resolved> conjuncts(Resolved condition) {
        if (condition instanceof Resolved.Written written) {
            return written.part() instanceof Resolved.All ? conjuncts(written.part()) : List.of(condition);
        }
        return condition instanceof Resolved.All all
                ? all.parts().stream().flatMap(part -> conjuncts(part).stream()).toList()
                : List.of(condition);
    }

    /**
     * Two conditions around another one, made of leaves that a source decides.
     *
     * @param weaker true for all events of the original condition, and perhaps for more
     * @param stronger true only for events of the original condition, and perhaps not for all
     */
    private record Bound(Resolved weaker, Resolved stronger) {}

    private record Bounds(Function<Resolved, Precision> precision) implements Resolved.Fold<Bound> {
        @Override
        public Bound all(List<Bound> parts) {
            return new Bound(
                    Resolved.all(parts.stream().map(Bound::weaker).toList()),
                    Resolved.all(parts.stream().map(Bound::stronger).toList()));
        }

        @Override
        public Bound any(List<Bound> parts) {
            return new Bound(
                    Resolved.any(parts.stream().map(Bound::weaker).toList()),
                    Resolved.any(parts.stream().map(Bound::stronger).toList()));
        }

        @Override
        public Bound not(Bound part) {
            return new Bound(Resolved.not(part.stronger()), Resolved.not(part.weaker()));
        }

        @Override
        public Bound present(Name name) {
            return leaf(new Resolved.Present(name));
        }

        @Override
        public Bound value(Name name, Accepted accepted) {
            return leaf(new Resolved.HasValue(name, accepted));
        }

        @Override
        public Bound text(TextRule rule) {
            return leaf(new Resolved.HasText(rule));
        }

        private Bound leaf(Resolved leaf) {
            return switch (precision.apply(leaf)) {
                case EXACT -> new Bound(leaf, leaf);
                case APPROXIMATE -> new Bound(leaf, Resolved.FALSE);
                case NONE -> new Bound(Resolved.TRUE, Resolved.FALSE);
            };
        }
    }
}
