package dev.graphema.condition;

import dev.graphema.event.Decimals;
import dev.graphema.event.Durations;
import dev.graphema.event.Level;
import dev.graphema.event.Times;
import dev.graphema.event.ValueTest;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.ZoneOffset;
import java.time.format.DateTimeParseException;

/**
 * Compares a value with a literal as what both are. Where the types do not meet, the answer is no; docs/conditions.md has
 * the table.
 */
final class ComparisonTest extends ValueTest {
    private final Operator operator;
    private final Literal literal;
    private final Unit unit;

    /** The literal's number as a long, where it is one, so that whole numbers compare without objects. */
    private final boolean isLong;

    private final long asLong;

    ComparisonTest(Operator operator, Literal literal, Unit unit) {
        this.operator = operator;
        this.literal = literal;
        this.unit = unit;
        BigDecimal number = literal.number();
        isLong =
                number != null && number.stripTrailingZeros().scale() <= 0 && number.precision() - number.scale() <= 18;
        asLong = isLong ? number.longValueExact() : 0;
    }

    @Override
    public boolean text(String value) {
        if (operator == Operator.EQUAL && value.equals(literal.source())) {
            return true;
        }
        if (literal.number() != null) {
            BigDecimal number = Decimals.parse(value);
            return number != null && passes(number.compareTo(literal.number()));
        }
        if (literal.duration() != null) {
            Duration duration = duration(value);
            return duration != null && passes(duration.compareTo(literal.duration()));
        }
        if (literal.time() != null) {
            // A text without an offset does not say which moment it means; UTC is the one answer that is the same
            // everywhere.
            Long time = Times.parse(value, ZoneOffset.UTC);
            return time != null && passes(time.compareTo(literal.time()));
        }
        return passes(value.compareTo(literal.source()));
    }

    @Override
    public boolean integer(long value) {
        return isLong ? passes(Long.compare(value, asLong)) : decimal(BigDecimal.valueOf(value));
    }

    @Override
    public boolean real(double value) {
        return Double.isFinite(value) && decimal(BigDecimal.valueOf(value));
    }

    @Override
    public boolean decimal(BigDecimal value) {
        if (literal.number() != null) {
            return passes(value.compareTo(literal.number()));
        }
        if (literal.duration() != null && unit != Unit.NONE) {
            BigDecimal nanos = nanos(literal.duration());
            return passes(unit.nanos(value).compareTo(nanos));
        }
        // A quoted number is still meant as the value that is shown so.
        return operator == Operator.EQUAL && Decimals.text(value).equals(literal.source());
    }

    @Override
    public boolean bool(boolean value) {
        return operator == Operator.EQUAL && literal.source().equalsIgnoreCase(Boolean.toString(value));
    }

    @Override
    public boolean time(long epochNanos) {
        return literal.time() != null && passes(Long.compare(epochNanos, literal.time()));
    }

    @Override
    public boolean duration(Duration value) {
        return literal.duration() != null && passes(value.compareTo(literal.duration()));
    }

    @Override
    public boolean level(Level value) {
        return literal.value() instanceof Level level && passes(Integer.compare(value.severity(), level.severity()));
    }

    @Override
    public boolean nothing() {
        return operator == Operator.EQUAL
                && !literal.quoted()
                && literal.source().equals("null");
    }

    private boolean passes(int order) {
        return switch (operator) {
            case EQUAL -> order == 0;
            case LESS -> order < 0;
            case AT_MOST -> order <= 0;
            case MORE -> order > 0;
            case AT_LEAST -> order >= 0;
            default -> false;
        };
    }

    private static Duration duration(String text) {
        if (text.startsWith("PT") || text.startsWith("-PT") || text.startsWith("P")) {
            try {
                return Duration.parse(text);
            } catch (DateTimeParseException e) {
                return null;
            }
        }
        return Durations.parse(text);
    }

    private static BigDecimal nanos(Duration duration) {
        return BigDecimal.valueOf(duration.getSeconds())
                .scaleByPowerOfTen(9)
                .add(BigDecimal.valueOf(duration.getNano()));
    }
}
