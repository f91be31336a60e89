package dev.graphema.query;

import dev.graphema.Operation;
import dev.graphema.condition.Condition;
import dev.graphema.condition.Expression;
import dev.graphema.condition.Literal;
import dev.graphema.condition.Name;
import dev.graphema.condition.Operator;
import dev.graphema.event.Attribute;
import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.event.SpanId;
import dev.graphema.event.TraceId;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;

/**
 * One trace, or everything about one value: all events in the order of time, and the operations nested in one another. Immutable.
 *
 * <p>An operation is known by the event that ends it, which has the fields {@code elapsed} and {@code outcome}; one that has
 * only other events was never ended, or its end was not written.
 */
public final class Trail {
    /** Of more traces than these, the events of the first ones are gathered. */
    private static final int MOST_TRACES = 1_000;

    private final String name;
    private final List<Event> events;
    private final List<Span> roots;

    private Trail(String name, List<Event> events) {
        this.name = name;
        this.events = List.copyOf(events);
        this.roots = nested(events);
    }

    /**
     * What was found for the beginning of a trace id.
     *
     * @param trails none when there is no event, several when the digits do not tell them apart
     */
    public record Found(List<Trail> trails, Reading reading) {}

    /**
     * Gathers the traces whose ids begin with the given digits, in place of any condition that the logs have.
     *
     * @throws IOException when a file cannot be read
     */
    public static Found find(Logs logs, String digits) throws IOException {
        Logs.Newest all =
                logs.where(Condition.parse("trace starts \"" + digits + "\"")).newest(Integer.MAX_VALUE);
        Map<TraceId, List<Event>> byTrace = new LinkedHashMap<>();
        all.events()
                .forEach(event -> byTrace.computeIfAbsent(event.trace(), missing -> new ArrayList<>())
                        .add(event));
        List<Trail> trails = new ArrayList<>();
        byTrace.forEach((id, events) -> trails.add(new Trail(id.toString(), events)));
        return new Found(List.copyOf(trails), all.reading());
    }

    /**
     * Gathers everything about one value of a field: the events that have it, and all others of the traces to which those belong.
     *
     * @return one trail, or none when no event has the value
     * @throws dev.graphema.condition.ConditionException when there is no such level
     * @throws IOException when a file cannot be read
     */
    public static Found find(Logs logs, Name name, String value) throws IOException {
        Expression has = name.attribute() == Attribute.LEVEL
                ? Condition.parse(name + " = " + Literal.quoted(value)).expression() // which knows the levels
                : new Expression.Comparison(name, Operator.EQUAL, Literal.of(value));
        Set<TraceId> traces = new LinkedHashSet<>();
        Reading reading = logs.where(Condition.of(has)).read(event -> {
            if (event.trace() != null && traces.size() < MOST_TRACES) {
                traces.add(event.trace());
            }
            return true;
        });
        List<Expression> all = new ArrayList<>(List.of(has));
        if (!traces.isEmpty()) {
            all.add(new Expression.OneOf(
                    new Name(Attribute.TRACE, null),
                    traces.stream().map(trace -> Literal.of(trace.toString())).toList()));
        }
        List<Event> events = logs.where(Condition.of(all.size() == 1 ? has : new Expression.Or(all)))
                .newest(Integer.MAX_VALUE)
                .events();
        return new Found(events.isEmpty() ? List.of() : List.of(new Trail(name + " = " + value, events)), reading);
    }

    /** The trace's id, or the value by which it was found. */
    public String name() {
        return name;
    }

    /** All events, oldest first. */
    public List<Event> events() {
        return events;
    }

    /** The operations that are part of no other one that is known, in the order of their start. */
    public List<Span> roots() {
        return roots;
    }

    /** The services that took part, in the order in which they appear. */
    public Set<String> services() {
        Set<String> services = new LinkedHashSet<>();
        events.stream().map(Event::service).filter(Objects::nonNull).forEach(services::add);
        return services;
    }

    /** When the first operation began or the first event was said, in nanoseconds since 1970. */
    public long start() {
        return roots.stream().mapToLong(Span::start).min().orElse(0);
    }

    /** When the last event was said, in nanoseconds since 1970. */
    public long end() {
        return events.stream().mapToLong(Event::epochNanos).max().orElse(0);
    }

    /** The event that tells of the first failure, if something failed. */
    public Optional<Event> firstFailure() {
        return events.stream().filter(event -> event.failure() != null).findFirst();
    }

    /**
     * The longest time in which nothing was said, between two events.
     *
     * @param before the event before it
     * @param after the event after it
     */
    public record Gap(Event before, Event after) {
        /** How long it was. */
        public Duration length() {
            return Duration.ofNanos(after.epochNanos() - before.epochNanos());
        }
    }

    /** The longest time in which nothing was said; none when there are less than two events. */
    public Optional<Gap> longestGap() {
        Gap longest = null;
        for (int i = 1; i < events.size(); i++) {
            Gap gap = new Gap(events.get(i - 1), events.get(i));
            longest = longest == null || gap.length().compareTo(longest.length()) > 0 ? gap : longest;
        }
        return Optional.ofNullable(longest);
    }

    /**
     * By how much the clocks of instances seem to be ahead of the one where the trail begins, by the names of the instances; negative when behind.
     * Work that another asked for lies within the time in which that waits for it; where it does not, the clocks differ, by about as much as the
     * middles of the two lie apart (as NTP, RFC 5905, reckons). Instances whose clocks seem right are left out.
     */
    public Map<String, Duration> clocksAhead() {
        Map<String, Duration> ahead = new LinkedHashMap<>();
        roots.forEach(root -> clocks(root, 0, ahead));
        ahead.values().removeIf(Duration::isZero);
        return ahead;
    }

    private static void clocks(Span span, long aheadNanos, Map<String, Duration> to) {
        to.putIfAbsent(span.where(), Duration.ofNanos(aheadNanos));
        for (Span child : span.children) {
            long ahead = aheadNanos;
            if (!child.where().equals(span.where()) && child.ending != null && span.ending != null) {
                boolean isWithin = child.start() - ahead >= span.start() - aheadNanos
                        && child.end() - ahead <= span.end() - aheadNanos;
                long apart = (child.start() + child.end()) / 2 - (span.start() + span.end()) / 2;
                ahead = isWithin ? aheadNanos : aheadNanos + apart;
            }
            Duration known = to.get(child.where());
            clocks(child, known == null ? ahead : known.toNanos(), to);
        }
    }

    /** A piece of work within the trace. */
    public static final class Span {
        private final SpanId id;
        private final List<Span> children = new ArrayList<>();
        private SpanId parent;
        private Event ending;
        private Event first;

        private Span(SpanId id) {
            this.id = id;
        }

        public SpanId id() {
            return id;
        }

        /** The operation's name; null when its end was not written. */
        public String name() {
            return ending == null ? null : ending.message();
        }

        /** The event that ends it, with its fields, or null. */
        public Event ending() {
            return ending;
        }

        /** Some event of it, to tell where it took place. */
        public Event any() {
            return ending == null ? first : ending;
        }

        /** How long it took; null when its end was not written. */
        public Duration elapsed() {
            return ending == null ? null : (Duration) ending.fields().get(Operation.ELAPSED);
        }

        /** Whether it ended without success. */
        public boolean failed() {
            return ending != null && !Operation.SUCCESS.equals(ending.fields().get(Operation.OUTCOME));
        }

        /** The failure that it was the first to tell of, or null. */
        public Failure failure() {
            return ending == null ? null : ending.failure();
        }

        /** When it began, in nanoseconds since 1970: its end less its duration, or else its first event. */
        public long start() {
            return ending == null
                    ? first.epochNanos()
                    : ending.epochNanos() - elapsed().toNanos();
        }

        /** When it ended; the time of its last known event when its end was not written. */
        public long end() {
            return any().epochNanos();
        }

        /** The instance, or else the service, in which it took place; empty when neither is known. */
        public String where() {
            String where = any().instance() != null ? any().instance() : any().service();
            return where == null ? "" : where;
        }

        /** The operations that are part of it, in the order of their start. */
        public List<Span> children() {
            return List.copyOf(children);
        }
    }

    private static List<Span> nested(List<Event> events) {
        Map<SpanId, Span> spans = new LinkedHashMap<>();
        for (Event event : events) {
            if (event.span() == null) {
                continue;
            }
            Span span = spans.computeIfAbsent(event.span(), Span::new);
            if (span.first == null) {
                span.first = event;
            }
            if (event.parent() != null) {
                span.parent = event.parent();
            }
            if (event.fields().get(Operation.ELAPSED) instanceof Duration
                    && event.fields().has(Operation.OUTCOME)) {
                span.ending = event;
            }
        }
        List<Span> roots = new ArrayList<>();
        for (Span span : spans.values()) {
            Span parent = span.parent == null ? null : spans.get(span.parent);
            (parent == null || isWithin(parent, span, spans) ? roots : parent.children).add(span);
        }
        Comparator<Span> byStart = Comparator.comparingLong(Span::start);
        roots.sort(byStart);
        spans.values().forEach(span -> span.children.sort(byStart));
        return List.copyOf(roots);
    }

    /** Whether the inner span is, against all sense, around the outer one: files can say anything. */
    private static boolean isWithin(Span inner, Span outer, Map<SpanId, Span> spans) {
        Set<Span> seen = new LinkedHashSet<>();
        for (Span span = inner;
                span != null && seen.add(span);
                span = span.parent == null ? null : spans.get(span.parent)) {
            if (span == outer) {
                return true;
            }
        }
        return false;
    }
}
