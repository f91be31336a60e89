package dev.graphema;

import dev.graphema.background.BackgroundThreads;
import dev.graphema.condition.Condition;
import dev.graphema.event.Draft;
import dev.graphema.event.Level;
import dev.graphema.settings.Thresholds;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ScheduledThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import java.util.function.LongSupplier;

/**
 * The thresholds in force: those of the settings, and over them what was set for a limited time by hand. A threshold set by
 * hand for a branch holds for the whole branch, also where the settings refine it; of two, the one further down counts.
 *
 * <p>Beside thresholds for loggers there is detail raised for a target: whatever is said in a context that meets a condition
 * is let in from a lower level on. As long as there is any, events below their thresholds look at the context; without, they
 * cost one comparison.
 */
final class RuntimeThresholds {
    /** The field, and baggage member, that asks the services that are called for the same detail. */
    static final String MARK = "graphema-detail";

    /** How long a mark that came from outside counts when it does not come again. */
    private static final Duration MARK_COUNTS = Duration.ofSeconds(30);

    private final ScheduledThreadPoolExecutor alarms = alarms();
    private final InstantSource clock;
    private final LongSupplier nanoClock;
    private final Runnable changed;
    private final Map<String, Timed> byBranch = new LinkedHashMap<>();
    private Thresholds thresholds;
    private boolean takesMarks;
    private volatile Raised[] raised = {};
    private volatile boolean isByHand;

    /**
     * A level for a time.
     *
     * @param until when the time is over, for people
     * @param endNanos when it is over as {@link System#nanoTime} counts, which decides: a clock that is set makes no time longer
     */
    record Timed(Level level, Instant until, long endNanos) {}

    /** Detail for a target. @param condition over the fields of the context and the trace */
    record Raised(Condition condition, Timed timed) {
        Level level() {
            return timed.level();
        }
    }

    /**
     * @param clock tells people when a time is over
     * @param nanoClock as {@link System#nanoTime}
     * @param changed called when thresholds are different from before; not while the caller's lock is free
     */
    RuntimeThresholds(Thresholds thresholds, InstantSource clock, LongSupplier nanoClock, Runnable changed) {
        this.thresholds = thresholds;
        this.clock = clock;
        this.nanoClock = nanoClock;
        this.changed = changed;
    }

    synchronized void use(Thresholds thresholds, boolean takesMarks) {
        this.thresholds = thresholds;
        this.takesMarks = takesMarks;
    }

    /** The threshold of that logger now. */
    synchronized Level of(String logger) {
        Map.Entry<String, Timed> byHand = byHand(logger);
        return byHand == null ? thresholds.of(logger) : byHand.getValue().level();
    }

    /** The branch and the threshold set by hand that holds for the logger, or null. */
    synchronized Map.Entry<String, Timed> byHand(String logger) {
        Map.Entry<String, Timed> nearest = null;
        for (Map.Entry<String, Timed> entry : byBranch.entrySet()) {
            String branch = entry.getKey();
            boolean holds = branch.isEmpty()
                    || logger.equals(branch)
                    || logger.startsWith(branch) && logger.charAt(branch.length()) == '.';
            if (holds && (nearest == null || branch.length() > nearest.getKey().length())) {
                nearest = entry;
            }
        }
        return nearest;
    }

    /** Sets a threshold by hand until the time is over. @param branch a logger's dotted name, or "" for all */
    void set(String branch, Level level, Duration time) {
        checkTime(time);
        synchronized (this) {
            byBranch.put(branch, timed(level, time));
            isByHand = true;
        }
        changed.run();
        later(time);
    }

    /** Takes back what was set by hand for that branch. @return whether something was */
    boolean reset(String branch) {
        boolean was;
        synchronized (this) {
            was = byBranch.remove(branch) != null;
            isByHand = !byBranch.isEmpty();
        }
        changed.run();
        return was;
    }

    /** Takes back everything that was set by hand. */
    void resetAll() {
        synchronized (this) {
            byBranch.clear();
            isByHand = false;
            raised = new Raised[0];
        }
        alarms.getQueue().clear();
        changed.run();
    }

    /** Raises detail for a target until the time is over. */
    void raise(Condition condition, Level level, Duration time) {
        checkTime(time);
        synchronized (this) {
            List<Raised> all = new ArrayList<>(List.of(raised));
            all.removeIf(each -> each.condition().equals(condition));
            all.add(new Raised(condition, timed(level, time)));
            raised = all.toArray(new Raised[0]);
        }
        changed.run();
        later(time);
    }

    /** The level from which on somebody's events may be let in although they are below their threshold; OFF for nobody's. */
    Level floor() {
        Level floor = Level.OFF;
        for (Raised each : raised) {
            floor = floor.passes(each.level()) ? each.level() : floor;
        }
        return floor;
    }

    /** Whether somebody asked for events of that logger and level, by a threshold or by raising detail for this thread's work. */
    boolean isAskedFor(String logger, Level level) {
        if (isByHand) {
            Map.Entry<String, Timed> byHand = byHand(logger);
            if (byHand != null && level.passes(byHand.getValue().level())) {
                return true;
            }
        }
        return isRaised(level);
    }

    /** Whether detail of that level was raised for what this thread is doing. */
    boolean isRaised(Level level) {
        Level from = raisedHere();
        return from != null && level.passes(from);
    }

    /** The level from which on detail was raised for what this thread is doing, or null. */
    Level raisedHere() {
        Raised[] now = raised;
        if (now.length == 0) {
            return null;
        }
        Draft context = new Draft();
        ThreadFrames.correlation().mark(context);
        ThreadFrames.addFields(context);
        Level lowest = null;
        for (Raised each : now) {
            boolean lower = lowest == null || lowest.passes(each.level());
            if (lower && each.condition().matches(context.soFar())) {
                lowest = each.level();
            }
        }
        return lowest;
    }

    /** Raises detail for a request that came with a mark, when marks are taken from outside. */
    void marked(String mark) {
        boolean taken;
        synchronized (this) {
            taken = takesMarks;
        }
        Level level = mark == null || !taken ? null : Level.of(mark);
        if (level != null && level != Level.OFF && !isRaisedForMark(mark)) {
            raise(Condition.parse(MARK + " = " + level.text()), level, MARK_COUNTS);
        }
    }

    private boolean isRaisedForMark(String mark) {
        long soon = nanoClock.getAsLong() + MARK_COUNTS.toNanos() / 2;
        for (Raised each : raised) {
            if (each.condition().toString().equals(MARK + " = " + mark) && isAfter(each.timed(), soon)) {
                return true;
            }
        }
        return false;
    }

    /** Everything that was set by hand, as lines for people. */
    synchronized List<String> byHand() {
        List<String> lines = new ArrayList<>();
        byBranch.forEach((branch, timed) -> lines.add((branch.isEmpty() ? "every logger" : branch) + " from "
                + timed.level().text() + " on, until " + timed.until()));
        for (Raised each : raised) {
            lines.add("where " + each.condition() + ", from " + each.level().text() + " on, until "
                    + each.timed().until());
        }
        return lines;
    }

    /** Forgets what is over. */
    void expire() {
        synchronized (this) {
            long now = nanoClock.getAsLong();
            byBranch.values().removeIf(each -> !isAfter(each, now));
            isByHand = !byBranch.isEmpty();
            raised = List.of(raised).stream()
                    .filter(each -> isAfter(each.timed(), now))
                    .toArray(Raised[]::new);
        }
        changed.run();
    }

    private Timed timed(Level level, Duration time) {
        return new Timed(level, clock.instant().plus(time), nanoClock.getAsLong() + time.toNanos());
    }

    private static boolean isAfter(Timed timed, long nanos) {
        return timed.endNanos() - nanos > 0;
    }

    private void later(Duration time) {
        alarms.schedule(this::expire, time.toMillis() + 1, TimeUnit.MILLISECONDS);
    }

    /**
     * A thread of its own, which ends when nothing is set by hand: the JDK's shared one would keep this object, and with it
     * the library's classes, in memory until the time is over.
     */
    private static ScheduledThreadPoolExecutor alarms() {
        ScheduledThreadPoolExecutor alarms =
                new ScheduledThreadPoolExecutor(1, task -> BackgroundThreads.daemon("graphema-thresholds", task));
        alarms.setKeepAliveTime(100, TimeUnit.MILLISECONDS);
        alarms.allowCoreThreadTimeOut(true);
        return alarms;
    }

    private static void checkTime(Duration time) {
        if (time.isNegative() || time.isZero() || time.compareTo(Duration.ofDays(365)) > 0) {
            throw new IllegalArgumentException("time: " + time + " (expected: more than nothing, a year at the most)");
        }
    }
}
