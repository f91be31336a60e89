package dev.graphema.query.partial;

import com.tdunning.math.stats.Centroid;
import com.tdunning.math.stats.MergingDigest;
import dev.graphema.query.answer.Measure;
import dev.graphema.text.Decimals;
import dev.graphema.text.Durations;
import java.time.DateTimeException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** The statistics of added values. For one thread. */
final class Statistics {
    private static final int COMPRESSION = 200;
    private static final int LONGEST_NUMBER = 40;

    /** The most seconds whose nanoseconds are a long. */
    private static final long LONGEST_SECONDS = Long.MAX_VALUE / 1_000_000_000L;

    private final NumberCounts whole = new NumberCounts(Measure.MOST_DISTINCT);
    private final Set<Object> others = new HashSet<>();
    private MergingDigest digest;
    private long count;
    private long numbers;
    private double sum;
    private double least = Double.POSITIVE_INFINITY;
    private double most = Double.NEGATIVE_INFINITY;
    private boolean isDuration;

    /** @param value null for none */
    void add(Object value, long weight) {
        if (value instanceof Long number) {
            whole(number, weight);
        } else if (value != null) {
            meant(value, value instanceof String text ? meaning(text) : value, weight);
        }
    }

    private void meant(Object value, Object meant, long weight) {
        if (meant instanceof Long number) {
            whole(number, weight);
        } else if (meant instanceof Duration duration && duration.abs().getSeconds() < LONGEST_SECONDS) {
            isDuration = true;
            whole(duration.toNanos(), weight);
        } else {
            other(value, meant, weight);
        }
    }

    private void whole(long number, long weight) {
        if (!whole.add(number, weight)) {
            count += weight;
            digest(number, weight);
        }
    }

    private void other(Object value, Object meant, long weight) {
        if (others.size() < Measure.MOST_DISTINCT) {
            others.add(value);
        }
        count += weight;
        double number = meant instanceof Duration duration
                ? duration.getSeconds() * 1e9 + duration.getNano()
                : meant instanceof Number other ? other.doubleValue() : Double.NaN;
        if (Double.isFinite(number)) {
            isDuration |= meant instanceof Duration;
            digest(number, weight);
        }
    }

    private void number(double number, long weight) {
        numbers += weight;
        sum += number * weight;
        least = Math.min(least, number);
        most = Math.max(most, number);
    }

    private void digest(double number, long weight) {
        number(number, weight);
        if (digest == null) {
            digest = new MergingDigest(COMPRESSION);
        }
        digest.add(number, (int) Math.min(Integer.MAX_VALUE, weight));
    }

    /** Adds the values of another one, which must not be used afterwards. */
    void add(Statistics other) {
        count += other.count;
        numbers += other.numbers;
        sum += other.sum;
        least = Math.min(least, other.least);
        most = Math.max(most, other.most);
        isDuration |= other.isDuration;
        other.whole.inOrder(this::whole);
        for (Object each : other.others) {
            if (others.size() < Measure.MOST_DISTINCT) {
                others.add(each);
            }
        }
        if (other.digest != null) {
            if (digest == null) {
                digest = other.digest;
            } else {
                digest.add(other.digest);
            }
        }
    }

    /** Returns the number or duration of a text, as in conditions, or the text. */
    private static Object meaning(String text) {
        if (text.isEmpty() || text.length() > LONGEST_NUMBER) {
            return text;
        }
        if (text.startsWith("PT")) {
            try {
                return Duration.parse(text);
            } catch (DateTimeException e) {
                return text;
            }
        }
        Object number = Decimals.parse(text);
        Object meant = number == null ? Durations.parse(text) : number;
        return meant == null ? text : meant;
    }

    /** Returns the statistics; no values can be added afterwards. */
    Measure measure() {
        whole.inOrder((number, weight) -> {
            count += weight;
            number(number, weight);
        });
        long distinct = Math.min(Measure.MOST_DISTINCT, whole.size() + others.size());
        if (numbers == 0) {
            return new Measure(count, distinct, 0, 0, 0, 0, 0, 0, 0, false);
        }
        Ranks ranks = new Ranks(numbers);
        if (digest == null) {
            whole.inOrder(ranks::take);
        } else {
            List<Centroid> all = new ArrayList<>(digest.centroids());
            whole.inOrder((number, weight) -> all.add(new Centroid(number, (int) Math.min(Integer.MAX_VALUE, weight))));
            all.sort(Comparator.comparingDouble(Centroid::mean));
            all.forEach(one -> ranks.take(one.mean(), one.count()));
        }
        return new Measure(count, distinct, numbers, sum, least, ranks.median, ranks.p95, ranks.p99, most, isDuration);
    }

    /** Finds numbers at given ranks. */
    private static final class Ranks {
        private final long all;
        private long seen;
        private double median;
        private double p95;
        private double p99;

        Ranks(long all) {
            this.all = all;
        }

        void take(double number, long count) {
            median = isAt(50, count) ? number : median;
            p95 = isAt(95, count) ? number : p95;
            p99 = isAt(99, count) ? number : p99;
            seen += count;
        }

        /** Returns whether the number is a percentile, and the previous one is not. */
        private boolean isAt(int of100, long count) {
            return seen * 100 < all * of100 && (seen + count) * 100 >= all * of100;
        }
    }
}
