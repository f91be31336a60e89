package dev.graphema.query.answer;

import dev.graphema.Operation;
import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.trace.SpanId;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;

/**
 * One trace, or all events about one value: the events in the order of time, and the nested operations. Immutable.
 *
 * <p>An operation is identified by the event at its end, which has the fields {@code elapsed} and {@code outcome}; if
 * it has only other events, it did not end, or its end was not written.
 */
public final class Trail {
    private final String name;
    private final List<Event> events;
    private final List<Span> roots;

    /**
     * Creates the trail of events.
     *
     * @param name the trace id, or the value that the events are about
     * @param events the events in the order of time
     */
    public Trail(String name, List<Event> events) {
        this.name = name;
        this.events = List.copyOf(events);
        this.roots = nested(events);
    }

    /** Returns the trace id, or the value. */
    public String name() {
        return name;
    }

    /** Returns all events, oldest first. */
    public List<Event> events() {
        return events;
    }

    /** Returns the outermost operations in the order of their start. */
    public List<Span> roots() {
        return roots;
    }

    /** Returns the services in the order of their first event. */
    public Set<String> services() {
        Set<String> services = new LinkedHashSet<>();
        events.stream().map(Event::service).filter(Objects::nonNull).forEach(services::add);
        return services;
    }

    /** Returns the time of the first operation or event, in nanoseconds since 1970. */
    public long start() {
        return roots.stream().mapToLong(Span::start).min().orElse(0);
    }

    /** Returns the time of the last event, in nanoseconds since 1970. */
    public long end() {
        return events.stream().mapToLong(Event::epochNanos).max().orElse(0);
    }

    /** Returns the event of the first failure, if any. */
    public Optional<Event> firstFailure() {
        return events.stream().filter(event -> event.failure() != null).findFirst();
    }

    /**
     * The longest time without events.
     *
     * @param before the event before it
     * @param after the event after it
     */
    public record Gap(Event before, Event after) {
        /** Returns its duration. */
        public Duration length() {
            return Duration.ofNanos(after.epochNanos() - before.epochNanos());
        }
    }

    /** Returns the longest time without events; empty if there are fewer than two events. */
    public Optional<Gap> longestGap() {
        Gap longest = null;
        for (int i = 1; i < events.size(); i++) {
            Gap gap = new Gap(events.get(i - 1), events.get(i));
            longest = longest == null || gap.length().compareTo(longest.length()) > 0 ? gap : longest;
        }
        return Optional.ofNullable(longest);
    }

    /**
     * Returns by how much the clocks of instances are ahead of the one where the trail begins, by instance; negative if
     * behind. A called operation lies within the time of its caller; if not, the clocks differ by about the distance of
     * the midpoints (as in NTP, RFC 5905). Instances with correct clocks are omitted.
     */
    public Map<String, Duration> clocksAhead() {
        Map<String, Duration> ahead = new LinkedHashMap<>();
        Map<Span, Long> aheadNanos = new HashMap<>();
        for (Nested each : operations()) {
            long nanos =
                    each.caller() == null ? 0 : aheadNanos(each.span(), each.caller(), aheadNanos.get(each.caller()));
            Duration known = ahead.putIfAbsent(each.span().where(), Duration.ofNanos(nanos));
            aheadNanos.put(each.span(), known == null || each.caller() == null ? nanos : known.toNanos());
        }
        ahead.values().removeIf(Duration::isZero);
        return ahead;
    }

    private static long aheadNanos(Span called, Span caller, long callerAhead) {
        if (called.where().equals(caller.where()) || called.ending == null || caller.ending == null) {
            return callerAhead;
        }
        boolean isWithin = called.start() >= caller.start() && called.end() <= caller.end();
        long apart = (called.start() + called.end()) / 2 - (caller.start() + caller.end()) / 2;
        return isWithin ? callerAhead : callerAhead + apart;
    }

    /**
     * An operation of a trail.
     *
     * @param depth the number of operations around it
     * @param caller the operation around it; null for none
     */
    public record Nested(Span span, int depth, Span caller) {}

    /** Returns all operations in the order of their start, each before its parts. */
    public List<Nested> operations() {
        List<Nested> all = new ArrayList<>();
        Deque<Nested> next = new ArrayDeque<>();
        push(roots, 0, null, next);
        while (!next.isEmpty()) {
            Nested each = next.pop();
            all.add(each);
            push(each.span.children, each.depth + 1, each.span, next);
        }
        return all;
    }

    private static void push(List<Span> spans, int depth, Span caller, Deque<Nested> to) {
        for (int i = spans.size() - 1; i >= 0; i--) {
            to.push(new Nested(spans.get(i), depth, caller));
        }
    }

    /** An operation of the trace. */
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

        /** Returns the name; null if its end was not written. */
        public String name() {
            return ending == null ? null : ending.message();
        }

        /** Returns the event at its end, or null. */
        public Event ending() {
            return ending;
        }

        /** Returns any of its events. */
        public Event any() {
            return ending == null ? first : ending;
        }

        /** Returns its duration; null if its end was not written. */
        public Duration elapsed() {
            return ending == null ? null : (Duration) ending.fields().get(Operation.ELAPSED);
        }

        /** Returns whether it failed. */
        public boolean failed() {
            return ending != null && !Operation.SUCCESS.equals(ending.fields().get(Operation.OUTCOME));
        }

        /** Returns the failure that it recorded first, or null. */
        public Failure failure() {
            return ending == null ? null : ending.failure();
        }

        /**
         * Returns the time of its start, in nanoseconds since 1970: its end minus its duration, or else its first
         * event.
         */
        public long start() {
            return ending == null
                    ? first.epochNanos()
                    : ending.epochNanos() - elapsed().toNanos();
        }

        /** Returns the time of its end, or of its last known event if the end was not written. */
        public long end() {
            return any().epochNanos();
        }

        /** Returns the instance, or else the service; empty if neither is known. */
        public String where() {
            String where = any().instance() != null ? any().instance() : any().service();
            return where == null ? "" : where;
        }

        /** Returns its parts in the order of their start. */
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

    /** Returns whether the inner span encloses the outer one, which damaged files may contain. */
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
