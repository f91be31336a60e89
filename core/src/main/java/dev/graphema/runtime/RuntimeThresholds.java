package dev.graphema.runtime;

import dev.graphema.background.BackgroundThreads;
import dev.graphema.condition.Condition;
import dev.graphema.event.Draft;
import dev.graphema.event.Level;
import dev.graphema.propagation.ThreadFrames;
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
 * The current thresholds: those of the settings, and those set at run time for a limited time, which take precedence
 * for the whole branch; of two that apply, the more specific one counts.
 *
 * <p>Detail can also be raised for a target: events in a context that matches a condition are accepted from a lower
 * level on. While detail is raised, events below their threshold require a check of the context; otherwise, they cost
 * one comparison.
 */
public final class RuntimeThresholds {
    /** The field, and baggage member, that requests the same detail from called services. */
    public static final String MARK = "graphema-detail";

    /** How long a received request for detail applies if it is not repeated. */
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

    /**
     * Detail for a target.
     *
     * @param condition over the fields of the context and the trace
     */
    record Raised(Condition condition, Timed timed) {
        Level level() {
            return timed.level();
        }
    }

    /**
     * @param clock the clock for times that are shown to people
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

    /** Returns the current threshold of the logger. */
    public synchronized Level of(String logger) {
        Map.Entry<String, Timed> byHand = byHand(logger);
        return byHand == null ? thresholds.of(logger) : byHand.getValue().level();
    }

    /** Returns the branch and the threshold set at run time that apply to the logger, or null. */
    public synchronized Map.Entry<String, Timed> byHand(String logger) {
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

    /**
     * Sets a threshold for a limited time.
     *
     * @param branch the dotted name of a logger, or "" for all
     */
    public void set(String branch, Level level, Duration time) {
        checkTime(time);
        synchronized (this) {
            byBranch.put(branch, timed(level, time));
            isByHand = true;
        }
        changed.run();
        later(time);
    }

    /**
     * Resets the threshold that was set at run time for a branch.
     *
     * @return whether there was one
     */
    public boolean reset(String branch) {
        boolean was;
        synchronized (this) {
            was = byBranch.remove(branch) != null;
            isByHand = !byBranch.isEmpty();
        }
        changed.run();
        return was;
    }

    /** Resets everything that was set at run time. */
    public void resetAll() {
        synchronized (this) {
            byBranch.clear();
            isByHand = false;
            raised = new Raised[0];
        }
        alarms.getQueue().clear();
        changed.run();
    }

    /** Raises detail for a target for a limited time. */
    public void raise(Condition condition, Level level, Duration time) {
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

    /** Returns the lowest level of events that may be accepted below their threshold; OFF if no detail is raised. */
    Level floor() {
        Level floor = Level.OFF;
        for (Raised each : raised) {
            floor = floor.passes(each.level()) ? each.level() : floor;
        }
        return floor;
    }

    /**
     * Whether events of this logger and level were requested at run time, by a threshold or by raised detail for this
     * thread.
     */
    boolean isAskedFor(String logger, Level level) {
        if (isByHand) {
            Map.Entry<String, Timed> byHand = byHand(logger);
            if (byHand != null && level.passes(byHand.getValue().level())) {
                return true;
            }
        }
        return isRaised(level);
    }

    /** Whether detail of this level is raised for the context of this thread. */
    boolean isRaised(Level level) {
        Level from = raisedHere();
        return from != null && level.passes(from);
    }

    /** Returns the level of raised detail for the context of this thread, or null. */
    public Level raisedHere() {
        Raised[] now = raised;
        if (now.length == 0) {
            return null;
        }
        Draft context = new Draft();
        ThreadFrames.mark(context);
        ThreadFrames.addFields(context);
        String mark = ThreadFrames.detail();
        if (mark != null) {
            context.fields(f -> f.put(MARK, mark));
        }
        Level lowest = null;
        for (Raised each : now) {
            boolean lower = lowest == null || lowest.passes(each.level());
            if (lower && each.condition().matches(context)) {
                lowest = each.level();
            }
        }
        return lowest;
    }

    /** Raises detail for a request whose caller asks for it, if the settings allow that. */
    public void marked(String mark) {
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

    /** Describes everything that was set at run time, one item per line. */
    public synchronized List<String> byHand() {
        List<String> lines = new ArrayList<>();
        byBranch.forEach((branch, timed) -> lines.add((branch.isEmpty() ? "every logger" : branch) + " from "
                + timed.level().text() + " on, until " + timed.until()));
        for (Raised each : raised) {
            lines.add("where " + each.condition() + ", from " + each.level().text() + " on, until "
                    + each.timed().until());
        }
        return lines;
    }

    /** Removes what has expired. */
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
     * A thread of its own, which ends if nothing is set at run time. The JDK's shared thread would keep this object,
     * and the classes of the library, in memory until the time is over.
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
