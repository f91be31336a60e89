package dev.graphema.query.partial;

import dev.graphema.query.answer.Measure;
import dev.graphema.query.answer.Measure.Percentile;
import dev.graphema.text.Decimals;
import dev.graphema.text.Durations;
import java.io.IOException;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.math.MathContext;
import java.math.RoundingMode;
import java.time.DateTimeException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * The statistics of added values. Up to {@link Measure#MOST_DISTINCT} different numbers of a kind are counted exactly:
 * whole numbers and durations, decimal numbers, and numbers with more digits than a double. Further ones are counted in
 * {@linkplain RelativeBins bins}. For one thread.
 */
final class Statistics {
    private static final int LONGEST_NUMBER = 40;

    /** The greatest double up to which all whole numbers are doubles. */
    private static final double MOST_WHOLE = 1L << 53;

    /** The most seconds whose nanoseconds are a long. */
    private static final long LONGEST_SECONDS = Long.MAX_VALUE / 1_000_000_000L;

    private static final BigDecimal PERCENT = BigDecimal.valueOf(100);

    /** Numbers with more zeros count as other values: arithmetic with them can overflow. */
    private static final int MOST_EXPONENT = 10_000;

    /** The digits of a sum. Of numbers whose exponents differ by more, an exact sum would take seconds. */
    private static final MathContext DIGITS_OF_SUM = new MathContext(2 * Decimals.MOST_DIGITS);

    /** Zeros at the end of a number that are written. */
    private static final int MOST_ZEROS = 64;

    private final NumberCounts whole = new NumberCounts(Measure.MOST_DISTINCT);

    /** Counts of doubles, by their bits in an order that is that of the doubles. */
    private final NumberCounts decimals = new NumberCounts(Measure.MOST_DISTINCT);

    private final Map<BigDecimal, Long> precise = new HashMap<>();
    private final Set<Object> others = new HashSet<>();
    private RelativeBins bins;
    private long otherCount;
    private long binned;
    private double binnedSum;
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
        } else if (meant instanceof Double number && Double.isFinite(number)) {
            decimal(number, weight);
        } else if (meant instanceof Duration duration) {
            isDuration = true;
            if (duration.abs().getSeconds() < LONGEST_SECONDS) {
                whole(duration.toNanos(), weight);
            } else {
                exact(
                        BigDecimal.valueOf(duration.getSeconds(), -9).add(BigDecimal.valueOf(duration.getNano())),
                        weight);
            }
        } else if (meant instanceof BigDecimal number) {
            exact(number, weight);
        } else if (meant instanceof BigInteger number) {
            exact(new BigDecimal(number), weight);
        } else if (meant instanceof Integer || meant instanceof Short || meant instanceof Byte) {
            whole(((Number) meant).longValue(), weight);
        } else {
            other(value, weight);
        }
    }

    private void other(Object value, long weight) {
        otherCount += weight;
        if (others.size() < Measure.MOST_DISTINCT) {
            others.add(value);
        }
    }

    /** Adds a whole number. */
    void whole(long number, long weight) {
        if (!whole.add(number, weight)) {
            bin(number, weight);
        }
    }

    private void decimal(double number, long weight) {
        if (number == Math.rint(number) && Math.abs(number) < MOST_WHOLE) {
            whole((long) number, weight);
        } else if (!decimals.add(ordered(number), weight)) {
            bin(number, weight);
        }
    }

    private void exact(BigDecimal number, long weight) {
        BigDecimal plain = number.stripTrailingZeros();
        if (Math.abs((long) plain.precision() - plain.scale()) > MOST_EXPONENT) {
            other(plain, weight);
        } else if (precise.size() < Measure.MOST_DISTINCT || precise.containsKey(plain)) {
            precise.merge(plain, weight, Long::sum);
        } else {
            bin(plain.doubleValue(), weight);
        }
    }

    private void bin(double number, long weight) {
        if (bins == null) {
            bins = new RelativeBins();
        }
        double finite = Math.max(-Double.MAX_VALUE, Math.min(Double.MAX_VALUE, number));
        bins.add(finite, weight);
        binned += weight;
        binnedSum += finite * weight;
        least = Math.min(least, finite);
        most = Math.max(most, finite);
    }

    /** Returns bits that are in the order of the doubles; {@link #number} is the inverse. */
    private static long ordered(double number) {
        long bits = Double.doubleToLongBits(number);
        return bits ^ (bits >> 63 & Long.MAX_VALUE);
    }

    private static double number(long ordered) {
        return Double.longBitsToDouble(ordered ^ (ordered >> 63 & Long.MAX_VALUE));
    }

    /** Adds the values of another one, which must not be used afterwards. */
    void add(Statistics other) {
        isDuration |= other.isDuration;
        other.whole.inOrder(this::whole);
        other.decimals.inOrder((bits, weight) -> decimal(number(bits), weight));
        other.precise.forEach(this::exact);
        otherCount += other.otherCount;
        for (Object each : other.others) {
            if (others.size() < Measure.MOST_DISTINCT) {
                others.add(each);
            }
        }
        if (other.bins != null) {
            bins = bins == null ? new RelativeBins() : bins;
            bins.add(other.bins);
            binned += other.binned;
            binnedSum += other.binnedSum;
            least = Math.min(least, other.least);
            most = Math.max(most, other.most);
        }
    }

    void write(StateWriter to) throws IOException {
        to.begin();
        whole.write(to);
        decimals.write(to);
        to.begin();
        for (Map.Entry<BigDecimal, Long> each : precise.entrySet()) {
            to.begin().text(each.getKey().toString()).number(each.getValue()).end();
        }
        to.end().begin();
        for (Object each : others) {
            to.begin().text(each.getClass().getName()).text(each.toString()).end();
        }
        to.end()
                .number(otherCount)
                .flag(isDuration)
                .number(binned)
                .bits(binnedSum)
                .bits(least)
                .bits(most);
        (bins == null ? new RelativeBins() : bins).write(to);
        to.end();
    }

    /** Adds values that were written. */
    void add(StateReader from) throws IOException {
        Statistics other = new Statistics();
        from.begin();
        from.pairs(other.whole::add);
        from.pairs(other.decimals::add);
        from.begin();
        while (from.next()) {
            other.precise.put(new BigDecimal(from.text()), from.number());
            from.end();
        }
        from.begin();
        while (from.next()) {
            String type = from.text();
            String text = from.text();
            other.others.add(
                    type.equals(String.class.getName()) ? text : List.of(type, text)); // only their number counts
            from.end();
        }
        other.otherCount = from.number();
        other.isDuration = from.flag();
        other.binned = from.number();
        other.binnedSum = from.bits();
        other.least = from.bits();
        other.most = from.bits();
        other.bins = new RelativeBins();
        other.bins.add(from);
        other.bins = other.binned == 0 ? null : other.bins;
        from.end();
        add(other);
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

    private record Counted(BigDecimal number, long count) {}

    /**
     * Returns the statistics.
     *
     * @param percentiles the requested percentiles, above 0 and up to 100
     */
    Measure measure(List<BigDecimal> percentiles) {
        List<Counted> all = new ArrayList<>();
        whole.inOrder((number, count) -> all.add(new Counted(BigDecimal.valueOf(number), count)));
        decimals.inOrder((bits, count) -> all.add(new Counted(BigDecimal.valueOf(number(bits)), count)));
        precise.forEach((number, count) -> all.add(new Counted(number, count)));
        BigDecimal sum = BigDecimal.valueOf(binnedSum);
        long numbers = binned;
        for (Counted each : all) {
            sum = sum.add(each.number.multiply(BigDecimal.valueOf(each.count)), DIGITS_OF_SUM);
            numbers += each.count;
        }
        long distinct = Math.min(Measure.MOST_DISTINCT, all.size() + others.size());
        if (numbers == 0) {
            return new Measure(
                    otherCount, distinct, 0, BigDecimal.ZERO, BigDecimal.ZERO, BigDecimal.ZERO, List.of(), 0, false);
        }
        all.sort(Comparator.comparing(Counted::number));
        BigDecimal first = bound(all.isEmpty() ? null : all.get(0).number, 1);
        BigDecimal last = bound(all.isEmpty() ? null : all.get(all.size() - 1).number, -1);
        if (bins != null) {
            bins.each((number, count) -> all.add(new Counted(BigDecimal.valueOf(number), count)));
            all.sort(Comparator.comparing(Counted::number));
        }
        return new Measure(
                otherCount + numbers,
                distinct,
                numbers,
                plain(sum),
                first,
                last,
                percentiles(percentiles, all, numbers),
                binned > 0 ? Measure.ERROR : 0,
                isDuration);
    }

    /** Returns a number without trailing zeros of its fraction. */
    private static BigDecimal plain(BigDecimal number) {
        BigDecimal stripped = number.stripTrailingZeros();
        return stripped.scale() < 0 && stripped.scale() >= -MOST_ZEROS ? stripped.setScale(0) : stripped;
    }

    /**
     * Returns the bound of all numbers.
     *
     * @param exact that of the exact ones, or null
     * @param sign -1 for the greatest
     */
    private BigDecimal bound(BigDecimal exact, int sign) {
        BigDecimal inBins = binned == 0 ? null : BigDecimal.valueOf(sign > 0 ? least : most);
        boolean isExact = inBins == null || exact != null && exact.compareTo(inBins) * sign <= 0;
        return isExact ? exact : inBins;
    }

    private static List<Percentile> percentiles(List<BigDecimal> wanted, List<Counted> sorted, long numbers) {
        List<Percentile> found = new ArrayList<>();
        for (BigDecimal of : wanted) {
            long rank = of.multiply(BigDecimal.valueOf(numbers))
                    .divide(PERCENT, 0, RoundingMode.CEILING)
                    .longValueExact();
            long seen = 0;
            BigDecimal value = null;
            for (Counted each : sorted) {
                seen += each.count;
                value = each.number;
                if (seen >= rank) {
                    break;
                }
            }
            found.add(new Percentile(of, value));
        }
        return found;
    }
}
