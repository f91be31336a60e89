package dev.graphema.query;

import com.tdunning.math.stats.MergingDigest;
import dev.graphema.condition.Name;
import dev.graphema.event.Decimals;
import dev.graphema.event.Durations;
import dev.graphema.event.Event;
import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.Duration;
import java.util.HashSet;
import java.util.Set;

/**
 * The values of one field: how many there are, how many different ones and, of those that are numbers or durations, sum, mean and
 * percentiles. Where events were thinned, a value counts for as many as its event stands for. Immutable.
 *
 * @param count how many values there are
 * @param distinct how many different ones; {@link #MOST_DISTINCT} when there are that many or more
 * @param numbers how many of them are numbers; what follows is about these alone, and means nothing when there is none
 * @param sum their sum; of durations, in nanoseconds, as are the others
 * @param least the least
 * @param median as many are below it as above
 * @param p95 95 of 100 are not above it; this and the next are accurate to about one in a thousand of the ranks (T. Dunning's t-digest)
 * @param p99 99 of 100 are not above it
 * @param most the greatest
 * @param isDuration whether the numbers are durations
 */
public record Measure(
        long count,
        long distinct,
        long numbers,
        double sum,
        double least,
        double median,
        double p95,
        double p99,
        double most,
        boolean isDuration) {
    /** More different values are not told apart. */
    public static final int MOST_DISTINCT = 100_000;

    /** The mean of the numbers. */
    public double mean() {
        return sum / numbers;
    }

    /** Gathers values. For one thread. */
    static final class Gathering {
        private static final int COMPRESSION = 200;
        private static final int LONGEST_NUMBER = 40;

        private final Name name;
        private final Set<Object> distinct = new HashSet<>();
        private MergingDigest digest;
        private long count;
        private long numbers;
        private double sum;
        private boolean isDuration;

        Gathering(Name name) {
            this.name = name;
        }

        void add(Event event) {
            Object value = name.value(event);
            if (value == null) {
                return;
            }
            count += event.weight();
            if (distinct.size() < MOST_DISTINCT) {
                distinct.add(value);
            }
            Object meant = value instanceof String text ? meaning(text) : value;
            Double number = number(meant);
            if (number != null && Double.isFinite(number)) {
                if (digest == null) {
                    digest = new MergingDigest(COMPRESSION);
                }
                isDuration |= meant instanceof Duration;
                digest.add(number, (int) Math.min(Integer.MAX_VALUE, event.weight()));
                numbers += event.weight();
                sum += number * event.weight();
            }
        }

        /** Adds what another has gathered, of other events. */
        void add(Gathering other) {
            count += other.count;
            numbers += other.numbers;
            sum += other.sum;
            isDuration |= other.isDuration;
            for (Object each : other.distinct) {
                if (distinct.size() < MOST_DISTINCT) {
                    distinct.add(each);
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

        /** The number or duration that a text spells, as conditions understand it, or the text. */
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

        private static Double number(Object value) {
            if (value instanceof Duration duration) {
                return duration.getSeconds() * 1e9 + duration.getNano();
            }
            if (value instanceof Number number) {
                return number instanceof BigDecimal decimal
                        ? (Double) decimal.doubleValue()
                        : (Double) number.doubleValue();
            }
            return null;
        }

        Measure measure() {
            return digest == null
                    ? new Measure(count, distinct.size(), 0, 0, 0, 0, 0, 0, 0, false)
                    : new Measure(
                            count,
                            distinct.size(),
                            numbers,
                            sum,
                            digest.getMin(),
                            digest.quantile(0.5),
                            digest.quantile(0.95),
                            digest.quantile(0.99),
                            digest.getMax(),
                            isDuration);
        }
    }
}
