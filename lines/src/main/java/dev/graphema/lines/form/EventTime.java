package dev.graphema.lines.form;

import dev.graphema.lines.form.EventAssembler.Given;
import dev.graphema.lines.shape.LineAttribute;
import dev.graphema.lines.time.TimeReader;
import dev.graphema.lines.time.TimeRules;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** Chooses the time of an event among the values of a line. For one thread. */
final class EventTime {
    /** A number of seconds since 1970 below this one, that of 1973, is more probably something else. */
    private static final long LEAST_EVIDENT_SECONDS = 100_000_000;

    private static final long NANOS_OF_A_SECOND = 1_000_000_000;

    private final TimeReader reader;
    private LineDamage damage;

    EventTime(TimeRules rules) {
        reader = new TimeReader(rules);
    }

    /** Returns whether a value is a time, independent of its name. */
    boolean isEvident(Object value) {
        return evident(value) != null;
    }

    private Long evident(Object value) {
        if (value instanceof Number number) {
            Long nanos = TimeReader.ofNumber(exact(number));
            return nanos != null && nanos >= LEAST_EVIDENT_SECONDS * NANOS_OF_A_SECOND ? nanos : null;
        }
        return reader.parse(value.toString());
    }

    /** Returns what is wrong if there is no time. */
    LineDamage damage() {
        return damage;
    }

    /** Removes the time from the values of a line and returns it in nanoseconds since 1970; null if there is none. */
    Long of(List<Given> values) {
        List<Given> times = new ArrayList<>(2);
        for (Given each : values) {
            if (each.meaning().attribute() == LineAttribute.TIME) {
                times.add(each);
            }
        }
        damage = LineDamage.NO_TIME;
        if (times.size() > 1) {
            times.sort(Comparator.comparingInt(each -> each.meaning().rank()));
        }
        for (Given each : times) {
            Long moment = evident(each.value());
            if (moment != null) {
                values.remove(each);
                boolean isDate = times.size() > 1 && each.value() instanceof String text && text.indexOf(':') < 0;
                return isDate ? withClock(each, moment, times, values) : moment;
            }
        }
        for (Given each : times) {
            if (each.meaning().isCertain() && each.value() instanceof Number number) {
                Long small = TimeReader.ofNumber(exact(number));
                if (small != null) {
                    values.remove(each);
                    return small;
                }
            }
        }
        if (!times.isEmpty()) {
            damage = damageOf(times.get(0));
        }
        return null;
    }

    /** Returns the time of a date; if the time of day is another value, that of both. */
    private Long withClock(Given date, Long moment, List<Given> times, List<Given> values) {
        for (Given each : times) {
            Long both = each == date ? null : reader.parse(date.text(), each.text());
            if (both != null) {
                values.remove(each);
                return both;
            }
        }
        return moment;
    }

    private LineDamage damageOf(Given time) {
        if (time.value() instanceof Number) {
            return LineDamage.INVALID_TIME;
        }
        reader.parse(time.text());
        return reader.doubtfulZone() != null
                ? LineDamage.UNKNOWN_ZONE
                : reader.isOrderUnknown() ? LineDamage.DAY_OR_MONTH : LineDamage.INVALID_TIME;
    }

    private static BigDecimal exact(Number number) {
        return number instanceof BigDecimal decimal
                ? decimal
                : number instanceof BigInteger integer ? new BigDecimal(integer) : new BigDecimal(number.toString());
    }
}
