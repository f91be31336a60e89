package dev.graphema.holdback;

import dev.graphema.condition.Condition;
import dev.graphema.event.Level;
import java.time.Duration;
import java.util.Objects;

/**
 * What is held back, for how long, and what lets it out. Immutable.
 *
 * @param below events less severe than this are held back
 * @param by the field, or attribute, whose value tells which events belong together: {@code trace} by default. An event without
 *     it is not held back
 * @param releaseWhen an event for which this holds lets out what is held of the group to which it belongs
 * @param events how many events of a group are held; of more, the oldest go
 * @param groups how many groups are held
 * @param bytes how many bytes all of them may take
 * @param time for how long a group is held, from its first event on
 */
public record HoldBackRule(
        Level below, String by, Condition releaseWhen, int events, int groups, long bytes, Duration time) {
    /** How long an event is held at the most, and so by how much it may be written behind later ones: whoever reads the file relies on it. */
    public static final Duration LONGEST_TIME = Duration.ofMinutes(10);

    /** The usual rule: detail below info is held for a trace, and comes out when something fails in it. */
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

    /** Whether events of that level are held back. */
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
