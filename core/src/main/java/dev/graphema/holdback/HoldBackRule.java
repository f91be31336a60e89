package dev.graphema.holdback;

import dev.graphema.condition.Condition;
import dev.graphema.event.Level;
import java.time.Duration;
import java.util.Objects;

/**
 * Which events are held, for how long, and which events release them. Immutable.
 *
 * @param below events less severe than this level are held
 * @param by the field, or attribute, whose value groups events: {@code trace} by default. An event without it is not
 *     held
 * @param releaseWhen an event that matches this condition releases its group
 * @param events the most events of a group; then the oldest are discarded
 * @param groups the most groups
 * @param bytes the most bytes of all held events
 * @param time how long a group is held, from its first event
 */
public record HoldBackRule(
        Level below, String by, Condition releaseWhen, int events, int groups, long bytes, Duration time) {
    /**
     * The longest time for which an event is held, and so the longest delay after which it is written; readers of files
     * rely on it.
     */
    public static final Duration LONGEST_TIME = Duration.ofMinutes(10);

    /** The default rule: events below info are held by trace, and released by an error. */
    public static final HoldBackRule USUAL = new HoldBackRule(
            Level.INFO,
            "trace",
            Condition.parse("level >= error"),
            200,
            10_000,
            16L * 1024 * 1024,
            Duration.ofMinutes(1));

    public HoldBackRule {
        Objects.requireNonNull(releaseWhen, "releaseWhen");
        if (below == Level.TRACE || below == Level.OFF) {
            throw new IllegalArgumentException("hold-back.below: " + below.text() + " (expected: debug to fatal)");
        }
        if (by.isBlank()) {
            throw new IllegalArgumentException("hold-back.by: nothing (expected: trace, or the name of a field)");
        }
        atLeastOne("events", events);
        atLeastOne("groups", groups);
        if (bytes < 64 * 1024) {
            throw new IllegalArgumentException("hold-back.bytes: " + bytes + " (expected: 65536 or more)");
        }
        if (time.isNegative() || time.isZero() || time.compareTo(LONGEST_TIME) > 0) {
            throw new IllegalArgumentException(
                    "hold-back.time: " + time + " (expected: more than nothing, ten minutes at the most)");
        }
    }

    private static void atLeastOne(String name, int value) {
        if (value < 1) {
            throw new IllegalArgumentException("hold-back." + name + ": " + value + " (expected: 1 or more)");
        }
    }

    /** Returns whether events of this level are held. */
    public boolean isAbout(Level level) {
        return !level.passes(below);
    }

    public HoldBackRule below(Level level) {
        return new HoldBackRule(level, by, releaseWhen, events, groups, bytes, time);
    }

    public HoldBackRule by(String field) {
        return new HoldBackRule(below, field, releaseWhen, events, groups, bytes, time);
    }

    public HoldBackRule releaseWhen(Condition condition) {
        return new HoldBackRule(below, by, condition, events, groups, bytes, time);
    }

    public HoldBackRule events(int most) {
        return new HoldBackRule(below, by, releaseWhen, most, groups, bytes, time);
    }

    public HoldBackRule groups(int most) {
        return new HoldBackRule(below, by, releaseWhen, events, most, bytes, time);
    }

    public HoldBackRule bytes(long most) {
        return new HoldBackRule(below, by, releaseWhen, events, groups, most, time);
    }

    public HoldBackRule time(Duration time) {
        return new HoldBackRule(below, by, releaseWhen, events, groups, bytes, time);
    }
}
