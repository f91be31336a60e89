package dev.graphema.condition;

import java.util.Objects;

/**
 * An interval of ordered values. Values are compared by {@link Comparable#compareTo}. Immutable.
 *
 * @param low the lower bound; null for none
 * @param includesLow whether the lower bound belongs to the range
 * @param high the upper bound; null for none
 * @param includesHigh whether the upper bound belongs to the range
 * @param <T> the type of the values
 */
public record Range<T extends Comparable<? super T>>(T low, boolean includesLow, T high, boolean includesHigh) {
    /**
     * The values that have this relation to the bound.
     *
     * @param operator one of {@code =}, {@code <}, {@code <=}, {@code >}, {@code >=}
     */
    static <T extends Comparable<? super T>> Range<T> of(Operator operator, T bound) {
        Objects.requireNonNull(bound, "bound");
        return switch (operator) {
            case EQUAL -> new Range<>(bound, true, bound, true);
            case LESS -> new Range<>(null, false, bound, false);
            case AT_MOST -> new Range<>(null, false, bound, true);
            case MORE -> new Range<>(bound, false, null, false);
            case AT_LEAST -> new Range<>(bound, true, null, false);
            default -> throw new IllegalArgumentException(operator + " (expected: =, <, <=, > or >=)");
        };
    }

    /** Whether the value is in the range. */
    public boolean contains(T value) {
        if (low != null) {
            int order = value.compareTo(low);
            if (order < 0 || order == 0 && !includesLow) {
                return false;
            }
        }
        if (high != null) {
            int order = value.compareTo(high);
            return order < 0 || order == 0 && includesHigh;
        }
        return true;
    }

    /** The values that are in both ranges. */
    public Range<T> and(Range<T> other) {
        Range<T> lower = low == null || other.low != null && isHigher(other.low, other.includesLow) ? other : this;
        Range<T> upper = high == null || other.high != null && isLower(other.high, other.includesHigh) ? other : this;
        return new Range<>(lower.low, lower.includesLow, upper.high, upper.includesHigh);
    }

    private boolean isHigher(T otherLow, boolean includes) {
        int order = otherLow.compareTo(low);
        return order > 0 || order == 0 && !includes;
    }

    private boolean isLower(T otherHigh, boolean includes) {
        int order = otherHigh.compareTo(high);
        return order < 0 || order == 0 && !includes;
    }

    /** The range in the condition language, such as {@code > 250}; an interval such as {@code > 1 and <= 5}. */
    @Override
    public String toString() {
        if (low != null && high != null && includesLow && includesHigh && low.compareTo(high) == 0) {
            return "= " + low;
        }
        String lower = low == null ? "" : (includesLow ? ">= " : "> ") + low;
        String upper = high == null ? "" : (includesHigh ? "<= " : "< ") + high;
        return lower + (lower.isEmpty() || upper.isEmpty() ? "" : " and ") + upper;
    }
}
