package dev.graphema.sampling;

import dev.graphema.text.Durations;
import java.math.BigDecimal;
import java.time.Duration;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** How many events a rule keeps. Every kept event has a weight, so that counts can be estimated. */
public sealed interface Keep {
    /** All events. */
    Keep ALL = new OneIn(1);

    /** Returns the form in settings. */
    String text();

    /** One of a number of events; all or none of a trace, if the rule requires that. */
    record OneIn(long count) implements Keep {
        /** The 56 random bits of a trace id cannot distinguish more. */
        static final long MOST = 1L << 55;

        public OneIn {
            if (count < 1 || count > MOST) {
                throw new IllegalArgumentException("keep: 1 in " + count + " (expected: 1 in 1 to 1 in " + MOST + ")");
            }
        }

        @Override
        public String text() {
            return "1 in " + count;
        }
    }

    /** A percentage of all events. The weight of a kept event is a whole number whose average is exact. */
    record Percent(BigDecimal percent) implements Keep {
        public Percent {
            if (percent.signum() <= 0 || percent.compareTo(BigDecimal.valueOf(100)) > 0 || percent.scale() > 6) {
                throw new IllegalArgumentException(
                        "keep: " + percent + "% (expected: more than 0% to 100%, with 6 decimals at the most)");
            }
        }

        @Override
        public String text() {
            return percent.toPlainString() + "%";
        }
    }

    /** A number of events per second, and a number at once after a quiet period. */
    record Rate(int perSecond, int burst) implements Keep {
        public Rate {
            if (perSecond < 1 || burst < 1) {
                throw new IllegalArgumentException(
                        "keep: " + perSecond + "/s burst " + burst + " (expected: 1 or more of each)");
            }
        }

        @Override
        public String text() {
            return perSecond + "/s" + (burst == perSecond ? "" : " burst " + burst);
        }
    }

    /**
     * For each kind of event, which is one message of one logger, the first events in each period, and then one of a
     * number of events.
     */
    record First(int count, Duration every, int then) implements Keep {
        public First {
            if (count < 1 || then < 1 || every.isNegative() || every.isZero()) {
                throw new IllegalArgumentException("keep: first " + count + " in " + every + " then 1 in " + then
                        + " (expected: 1 or more of each, and a time)");
            }
        }

        @Override
        public String text() {
            return "first " + count + " in " + every.toMillis() + "ms then 1 in " + then;
        }
    }

    Pattern ONE_IN = Pattern.compile("1 +in +([0-9]{1,15})");
    Pattern PERCENT = Pattern.compile("([0-9]{1,3}(?:\\.[0-9]{1,6})?) *%");
    Pattern RATE = Pattern.compile("([0-9]{1,9})/s(?: +burst +([0-9]{1,9}))?");
    Pattern FIRST = Pattern.compile("first +([0-9]{1,9}) +in +([0-9.]+[a-z]+) +then +1 +in +([0-9]{1,9})");

    /**
     * Parses {@code 1 in 20}, {@code 5%}, {@code 100/s burst 500} or {@code first 10 in 1m then 1 in 100}.
     *
     * @throws IllegalArgumentException if the text is none of them
     */
    static Keep parse(String text) {
        String trimmed = text.strip();
        Matcher oneIn = ONE_IN.matcher(trimmed);
        Matcher percent = PERCENT.matcher(trimmed);
        Matcher rate = RATE.matcher(trimmed);
        Matcher first = FIRST.matcher(trimmed);
        if (oneIn.matches() && Long.parseLong(oneIn.group(1)) >= 1) {
            return new OneIn(Long.parseLong(oneIn.group(1)));
        }
        if (percent.matches()) {
            return new Percent(new BigDecimal(percent.group(1)));
        }
        if (rate.matches()) {
            int perSecond = Integer.parseInt(rate.group(1));
            return new Rate(perSecond, rate.group(2) == null ? perSecond : Integer.parseInt(rate.group(2)));
        }
        if (first.matches() && Durations.parse(first.group(2)) != null) {
            return new First(
                    Integer.parseInt(first.group(1)),
                    Durations.parse(first.group(2)),
                    Integer.parseInt(first.group(3)));
        }
        throw new IllegalArgumentException(
                "\"" + text + "\" is not a valid share: expected one such as 1 in 20, 5%, 100/s burst 500 or"
                        + " first 10 in 1m then 1 in 100");
    }
}
