package dev.graphema.sampling;

import dev.graphema.event.Draft;
import dev.graphema.trace.TraceId;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.LongSupplier;

/** The sampling of one rule. Thread-safe. */
interface RuleSampler {
    /** Returns the weight of the event; 0 if it is dropped. */
    long weight(Draft draft, TraceId trace);

    static RuleSampler of(SamplingRule rule, LongSupplier random, LongSupplier nanoClock) {
        Keep keep = rule.keep();
        if (keep instanceof Keep.OneIn oneIn) {
            long count = oneIn.count();
            return new Share(Share.RANGE / count, count, 0, rule.together(), random);
        }
        if (keep instanceof Keep.Percent percent) {
            return Share.of(percent.percent(), rule.together(), random);
        }
        if (keep instanceof Keep.Rate rate) {
            return new Bucket(rate, nanoClock);
        }
        return new FirstOfKind((Keep.First) keep, nanoClock);
    }

    /**
     * Keeps a percentage. The lowest 56 bits of a trace id, or of a random number, decide: values in the uppermost part
     * of the range are kept.
     *
     * @param kept the size of that part
     * @param weight the integer part of the weight
     * @param extra the size of the part in which the weight is one more, so that the average is exact
     */
    record Share(long kept, long weight, long extra, boolean together, LongSupplier random) implements RuleSampler {
        static final long RANGE = 1L << 56;

        static Share of(BigDecimal percent, boolean together, LongSupplier random) {
            BigDecimal share = percent.movePointLeft(2);
            long kept = share.multiply(BigDecimal.valueOf(RANGE)).longValue();
            BigDecimal weight = BigDecimal.ONE.divide(share, 18, RoundingMode.HALF_UP);
            long whole = weight.longValue();
            long extra = weight.subtract(BigDecimal.valueOf(whole))
                    .multiply(BigDecimal.valueOf(kept))
                    .longValue();
            return new Share(kept, whole, extra, together, random);
        }

        @Override
        public long weight(Draft draft, TraceId trace) {
            long bits = (together && trace != null ? trace.low() : random.getAsLong()) & RANGE - 1;
            long above = bits - (RANGE - kept);
            return above < 0 ? 0 : above < extra ? weight + 1 : weight;
        }
    }

    /**
     * Keeps a number of events per second (the generic cell rate algorithm, ITU-T I.371). A kept event also represents
     * those that were dropped before it.
     */
    final class Bucket implements RuleSampler {
        private final long intervalNanos;
        private final long toleranceNanos;
        private final LongSupplier clock;
        private final AtomicLong due;
        private final AtomicLong dropped = new AtomicLong();

        Bucket(Keep.Rate rate, LongSupplier clock) {
            this.intervalNanos = Math.max(1, 1_000_000_000L / rate.perSecond());
            this.toleranceNanos = intervalNanos * (rate.burst() - 1);
            this.clock = clock;
            this.due = new AtomicLong(clock.getAsLong());
        }

        @Override
        public long weight(Draft draft, TraceId trace) {
            while (true) {
                long now = clock.getAsLong();
                long before = due.get();
                if (before - now > toleranceNanos) {
                    dropped.incrementAndGet();
                    return 0;
                }
                long next = (before - now > 0 ? before : now) + intervalNanos;
                if (due.compareAndSet(before, next)) {
                    return 1 + dropped.getAndSet(0);
                }
            }
        }
    }

    /** Keeps the first events of each kind in each period, and then one of a number of events. */
    final class FirstOfKind implements RuleSampler {
        /** Further kinds share one count. */
        private static final int MOST_KINDS = 4096;

        private final Keep.First keep;
        private final LongSupplier clock;
        private final Map<String, Kind> kinds = new ConcurrentHashMap<>();
        private final Kind others;

        FirstOfKind(Keep.First keep, LongSupplier clock) {
            this.keep = keep;
            this.clock = clock;
            this.others = new Kind(clock.getAsLong());
        }

        @Override
        public long weight(Draft draft, TraceId trace) {
            String name = draft.logger() + "\n" + draft.message();
            Kind kind = kinds.get(name);
            if (kind == null) {
                kind = kinds.size() < MOST_KINDS
                        ? kinds.computeIfAbsent(name, missing -> new Kind(clock.getAsLong()))
                        : others;
            }
            return kind.weight(keep, clock.getAsLong());
        }

        private static final class Kind {
            private long begin;
            private long count;
            private long dropped;

            Kind(long now) {
                begin = now;
            }

            synchronized long weight(Keep.First keep, long now) {
                if (now - begin >= keep.every().toNanos()) {
                    begin = now;
                    count = 0;
                }
                count++;
                boolean isKept = count <= keep.count() || (count - keep.count()) % keep.then() == 0;
                if (!isKept) {
                    dropped++;
                    return 0;
                }
                long weight = 1 + dropped;
                dropped = 0;
                return weight;
            }
        }
    }
}
