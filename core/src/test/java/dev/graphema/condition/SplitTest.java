package dev.graphema.condition;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.function.Function;
import java.util.function.Predicate;
import org.junit.jupiter.api.Test;

class SplitTest {
    private static final List<String> NAMES = List.of("a", "b", "c", "d");

    /** Exact for {@code a}, approximate for {@code b}, and not at all for the others. */
    private static final Function<Resolved, Split.Precision> BY_NAME = leaf -> switch (name(leaf)) {
        case "a" -> Split.Precision.EXACT;
        case "b" -> Split.Precision.APPROXIMATE;
        default -> Split.Precision.NONE;
    };

    private static String name(Resolved leaf) {
        return leaf instanceof Resolved.HasValue value
                ? value.name().toString()
                : leaf instanceof Resolved.Present present ? present.name().toString() : "";
    }

    @Test
    void eachPartGoesWhereItIsDecided() {
        Split split = split("a exists and b exists and c exists and not b missing");
        assertEquals("a exists", split.exact().toString());
        assertEquals(
                "(b exists) and (not (not (b exists)))", split.approximate().toString());
        assertEquals(
                "(b exists) and (c exists) and (not (not (b exists)))",
                split.rest().toString());
    }

    @Test
    void whatIsApproximateIsNotDecidedUnderANot() {
        assertEquals(Resolved.TRUE, split("not b exists").approximate());
        assertEquals(Resolved.TRUE, split("a exists or c exists").approximate());
        assertEquals(
                "a exists",
                split("(a exists and c exists) or (a exists and d exists)")
                        .approximate()
                        .fold(new Leaves())
                        .get(0));
        assertEquals(Resolved.TRUE, split("a exists").rest());
    }

    private static Split split(String condition) {
        return Split.of(Condition.parse(condition).resolved(), BY_NAME);
    }

    /** Against random events, with a source that is as imprecise as it may be. */
    @Test
    void nothingThatMatchesIsLeftOut() {
        long seed = new Random().nextLong();
        Random random = new Random(seed);
        int approximated = 0;
        for (int i = 0; i < 3_000; i++) {
            Condition condition = Condition.parse(condition(random, 3));
            Map<String, Split.Precision> precisions = new HashMap<>();
            NAMES.forEach(name -> precisions.put(name, Split.Precision.values()[random.nextInt(3)]));
            Function<Resolved, Split.Precision> precision = leaf -> precisions.get(name(leaf));
            Split split = Split.of(condition.resolved(), precision);
            approximated += split.approximate().equals(Resolved.TRUE) ? 0 : 1;
            boolean acceptsMore = random.nextBoolean();
            for (int j = 0; j < 8; j++) {
                Event event = event(random);
                boolean matches = condition.matches(event);
                String what = "seed " + seed + ": " + condition + " by " + precisions + " of " + event.fields();
                assertEquals(matches, holds(split.exact(), event) && holds(split.rest(), event), what);
                boolean roughly = split.approximate()
                        .fold(new Imprecise(precision, acceptsMore))
                        .test(event);
                assertTrue(!matches || roughly, what);
            }
        }
        assertTrue(approximated > 500, approximated + " conditions were approximated");
    }

    private static boolean holds(Resolved resolved, Event event) {
        return resolved.predicate().test(event);
    }

    private static String condition(Random random, int depth) {
        if (depth == 0 || random.nextInt(4) == 0) {
            String name = NAMES.get(random.nextInt(NAMES.size()));
            return switch (random.nextInt(4)) {
                case 0 -> name + " exists";
                case 1 -> name + " != " + random.nextInt(3);
                case 2 -> name + " in (0, 2)";
                default -> name + " >= " + random.nextInt(3);
            };
        }
        if (random.nextInt(4) == 0) {
            return "not (" + condition(random, depth - 1) + ")";
        }
        String word = random.nextBoolean() ? " and " : " or ";
        return "(" + condition(random, depth - 1) + ")" + word + "(" + condition(random, depth - 1) + ")";
    }

    private static Event event(Random random) {
        return new Draft()
                .fields(f -> NAMES.forEach(name -> {
                    if (random.nextInt(4) > 0) {
                        f.put(name, random.nextInt(3));
                    }
                }))
                .finish();
    }

    /** Accepts more than it should where the source is approximate. */
    private record Imprecise(Function<Resolved, Split.Precision> precision, boolean acceptsMore)
            implements Resolved.Fold<Predicate<Event>> {
        @Override
        public Predicate<Event> all(List<Predicate<Event>> parts) {
            return event -> parts.stream().allMatch(part -> part.test(event));
        }

        @Override
        public Predicate<Event> any(List<Predicate<Event>> parts) {
            return event -> parts.stream().anyMatch(part -> part.test(event));
        }

        @Override
        public Predicate<Event> not(Predicate<Event> part) {
            return part.negate();
        }

        @Override
        public Predicate<Event> present(Name name) {
            return leaf(new Resolved.Present(name));
        }

        @Override
        public Predicate<Event> value(Name name, Accepted accepted) {
            return leaf(new Resolved.HasValue(name, accepted));
        }

        @Override
        public Predicate<Event> text(TextRule rule) {
            return leaf(new Resolved.HasText(rule));
        }

        private Predicate<Event> leaf(Resolved leaf) {
            Split.Precision how = precision.apply(leaf);
            assertTrue(how != Split.Precision.NONE, "the source cannot decide " + leaf);
            return event -> holds(leaf, event) || acceptsMore && how == Split.Precision.APPROXIMATE;
        }
    }

    /** The leaves as text. */
    private static final class Leaves implements Resolved.Fold<List<String>> {
        @Override
        public List<String> all(List<List<String>> parts) {
            return any(parts);
        }

        @Override
        public List<String> any(List<List<String>> parts) {
            List<String> all = new ArrayList<>();
            parts.forEach(all::addAll);
            return all;
        }

        @Override
        public List<String> not(List<String> part) {
            return part;
        }

        @Override
        public List<String> present(Name name) {
            return List.of(name + " exists");
        }

        @Override
        public List<String> value(Name name, Accepted accepted) {
            return List.of(name + ": " + accepted);
        }

        @Override
        public List<String> text(TextRule rule) {
            return List.of(rule.toString());
        }
    }
}
