package dev.graphema.query.partial;

import dev.graphema.query.answer.Estimate;
import dev.graphema.trace.TraceId;
import java.io.IOException;
import java.util.HashMap;
import java.util.Map;

/**
 * Counts events by weight, and estimates the variance. If each event was kept independently, the variance of the count
 * is the sum of {@code weight * (weight - 1)} (Horvitz and Thompson, 1952). Events of one trace may have been kept
 * together: {@code n} events of weight {@code w}, which represent {@code n * w}, add {@code n * w * (n * w - n)}.
 *
 * <p>Events do not show how they were kept, so traces are always assumed to be kept as a whole; otherwise, the interval
 * is wider than necessary. Of very many traces, those whose ids end in zero bits are a sample.
 */
final class WeightedCount {
    /** The most remembered traces of all counts. */
    private static final int MOST_TRACES = 200_000;

    private final Shared shared;
    private long kept;
    private long count;
    private double alone;
    private long pieces;
    private Map<TraceId, long[]> traces;
    private int level;

    /** The state of counts that are made together: how many traces they remember, and of how many. */
    static final class Shared {
        private int remembered;
        private int level;

        boolean takes(TraceId trace) {
            return (spread(trace) & (1L << level) - 1) == 0;
        }

        /** A hash of the id: not all ids are random, and sampling uses their lowest bits. */
        private static long spread(TraceId trace) {
            long mixed = (trace.low() ^ trace.high()) * 0x9E3779B97F4A7C15L;
            return mixed >>> 40;
        }
    }

    WeightedCount(Shared shared) {
        this.shared = shared;
    }

    /**
     * Counts an event.
     *
     * @param trace null for none
     */
    void add(long weight, TraceId trace) {
        kept++;
        count += weight;
        if (weight == 1) {
            return;
        }
        if (trace == null) {
            alone += (double) weight * (weight - 1);
            pieces++;
        } else if (shared.takes(trace)) {
            long[] sums = remembered().computeIfAbsent(trace, missing -> {
                shared.remembered++;
                return new long[2];
            });
            sums[0]++;
            sums[1] += weight;
            if (shared.remembered > MOST_TRACES) {
                shared.level++;
                shared.remembered /= 2; // about: every count forgets its half when it is next asked
            }
        }
    }

    /** Counts events that were not sampled. */
    void add(long events) {
        kept += events;
        count += events;
    }

    /** Counts events of a weight that have no trace. */
    void add(long events, long weight) {
        kept += events;
        count += events * weight;
        if (weight > 1) {
            alone += (double) events * weight * (weight - 1);
            pieces += events;
        }
    }

    void write(StateWriter to) throws IOException {
        to.begin()
                .number(kept)
                .number(count)
                .bits(alone)
                .number(pieces)
                .number(shared.level)
                .begin();
        for (Map.Entry<TraceId, long[]> trace : remembered().entrySet()) {
            to.begin().text(trace.getKey().toString());
            to.number(trace.getValue()[0]).number(trace.getValue()[1]).end();
        }
        to.end().end();
    }

    /** Adds counts that were written. */
    void add(StateReader from) throws IOException {
        WeightedCount other = new WeightedCount(new Shared());
        from.begin();
        other.kept = from.number();
        other.count = from.number();
        other.alone = from.bits();
        other.pieces = from.number();
        other.shared.level = (int) from.number();
        from.begin();
        while (from.next()) {
            TraceId trace = TraceId.parse(from.text());
            other.remembered().put(trace, new long[] {from.number(), from.number()});
            from.end();
        }
        from.end();
        add(other);
    }

    boolean isEstimate() {
        return count != kept;
    }

    /** Adds the counts of others. */
    void add(WeightedCount other) {
        kept += other.kept;
        count += other.count;
        alone += other.alone;
        pieces += other.pieces;
        shared.level = Math.max(shared.level, other.shared.level);
        other.remembered().forEach((trace, sums) -> {
            if (shared.takes(trace)) {
                long[] own = remembered().computeIfAbsent(trace, missing -> {
                    shared.remembered++;
                    return new long[2];
                });
                own[0] += sums[0];
                own[1] += sums[1];
            }
        });
    }

    long kept() {
        return kept;
    }

    long count() {
        return count;
    }

    Estimate estimate() {
        double inTraces = 0;
        for (long[] sums : remembered().values()) {
            inTraces += (double) sums[1] * (sums[1] - sums[0]);
        }
        double share = 1L << level;
        return Estimate.of(
                kept,
                count,
                alone + inTraces * share,
                remembered().isEmpty()
                        ? Double.POSITIVE_INFINITY
                        : pieces + remembered().size() * share);
    }

    private Map<TraceId, long[]> remembered() {
        if (traces == null) {
            traces = new HashMap<>();
            level = shared.level;
        } else if (level < shared.level) {
            level = shared.level;
            traces.keySet().removeIf(trace -> !shared.takes(trace));
        }
        return traces;
    }
}
