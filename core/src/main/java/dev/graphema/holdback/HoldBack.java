package dev.graphema.holdback;

import dev.graphema.condition.Name;
import dev.graphema.event.Draft;
import dev.graphema.event.EventRecord;
import dev.graphema.event.EventValues;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.Queue;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.atomic.LongAdder;
import java.util.function.LongSupplier;

/**
 * Holds detail in memory by group. An event that matches the rule releases the events of its group, in order and marked
 * as held. Other groups are discarded when their time has passed. Thread-safe; threads of different groups rarely
 * contend.
 *
 * <p>Events are held as bytes, so that their size is known: an event takes its bytes and {@value #EVENT_COST} more, a
 * group {@value #GROUP_COST}. When a limit is reached, complete groups are discarded, the oldest first. Concurrent
 * threads may exceed a limit briefly, before each of them discards groups.
 *
 * <p>After its release and until its time has passed, detail of a group is not held but marked and written: events
 * after a failure are as useful as those before it.
 */
public final class HoldBack {
    /** Holds no events. */
    public static final HoldBack NONE = new HoldBack();

    static final int EVENT_COST = 24;
    static final int GROUP_COST = 320;

    /** Null for the instance that holds no events. */
    private final HoldBackRule rule;

    private final boolean isOn;
    private final Name by;
    private final LongSupplier clock;
    private final long timeNanos;
    private final Map<Object, Group> groups = new ConcurrentHashMap<>();
    private final Queue<Group> byAge = new ConcurrentLinkedQueue<>();
    private final AtomicInteger count = new AtomicInteger();
    private final AtomicLong bytes = new AtomicLong();
    private final AtomicLong events = new AtomicLong();
    private final LongAdder released = new LongAdder();
    private final LongAdder vanished = new LongAdder();
    private final LongAdder evicted = new LongAdder();

    /** The result of {@link #hold}. */
    public enum Fate {
        /** The event is held. */
        HELD,
        /** The event is to be written, because its group was released. */
        PASSES
    }

    /**
     * The current counts.
     *
     * @param groups the number of groups, including released ones whose time has not passed
     * @param events the number of held events
     * @param bytes the size of all held events
     * @param released the number of released events
     * @param vanished the number of events that were discarded after their time
     * @param evicted the number of events that were discarded because of a limit
     */
    public record Held(int groups, long events, long bytes, long released, long vanished, long evicted) {}

    /**
     * Released events.
     *
     * @param events in the order in which they were emitted, without a new sequence number
     * @param missing the number of events of the group that were discarded because of a limit
     */
    public record Released(List<Draft> events, int missing) {
        private static final Released NOTHING = new Released(List.of(), 0);
    }

    /** Holds events by the rule. */
    public HoldBack(HoldBackRule rule) {
        this(rule, System::nanoTime);
    }

    /** @param nanoClock as {@link System#nanoTime} */
    HoldBack(HoldBackRule rule, LongSupplier nanoClock) {
        this.rule = rule;
        this.isOn = true;
        this.by = Name.of(rule.by());
        this.clock = nanoClock;
        this.timeNanos = rule.time().toNanos();
    }

    private HoldBack() {
        this.rule = null;
        this.isOn = false;
        this.by = null;
        this.clock = System::nanoTime;
        this.timeNanos = 0;
    }

    /** Returns whether the event releases its group. */
    public boolean isReleasedBy(EventValues event) {
        return isOn && rule.releaseWhen().matches(event);
    }

    /** Returns whether the event is detail of a group. */
    public boolean isAbout(EventValues event) {
        return isOn && rule.isAbout(event.level()) && by.value(event) != null;
    }

    /** Holds the event, unless its group was released. */
    public Fate hold(Draft draft) {
        Object key = by.value(draft);
        if (key == null) {
            return Fate.PASSES; // redaction has removed the value that identified the group
        }
        byte[] written = null;
        long now = clock.getAsLong();
        while (true) {
            Group group = group(key, now);
            synchronized (group) {
                if (group.state == State.RELEASED) {
                    return Fate.PASSES;
                }
                if (group.state == State.HOLDING) {
                    written = written == null ? draft.complete().toBytes() : written;
                    add(group, written);
                    break;
                }
            }
        }
        makeRoom(now);
        return Fate.HELD;
    }

    /** Releases the held events of the group; its further detail is written. */
    public Released release(EventValues event) {
        Object key = by.value(event);
        if (key == null) {
            return Released.NOTHING;
        }
        long now = clock.getAsLong();
        Deque<byte[]> held;
        int missing;
        while (true) {
            Group group = group(key, now);
            synchronized (group) {
                if (group.state == State.GONE) {
                    continue;
                }
                held = group.held;
                missing = group.missing;
                empty(group, State.RELEASED);
                break;
            }
        }
        makeRoom(now);
        released.add(held.size());
        List<Draft> events = new ArrayList<>(held.size());
        held.forEach(each -> events.add(EventRecord.of(each).draft()));
        return new Released(events, missing);
    }

    public Held held() {
        return new Held(count.get(), events.get(), bytes.get(), released.sum(), vanished.sum(), evicted.sum());
    }

    /** Returns the group of the key; a group whose time has passed is discarded first. */
    private Group group(Object key, long now) {
        Group known = groups.get(key);
        while (known != null && isOver(known, now)) {
            if (byAge.remove(known)) {
                letGo(known, vanished);
            } else {
                groups.remove(key, known); // another thread is letting it go
            }
            known = groups.get(key);
        }
        if (known != null) {
            return known;
        }
        Group made = new Group(key, now);
        Group other = groups.putIfAbsent(key, made);
        if (other != null) {
            return other;
        }
        byAge.add(made);
        count.incrementAndGet();
        bytes.addAndGet(GROUP_COST);
        return made;
    }

    /** Under the group's lock. */
    private void add(Group group, byte[] event) {
        group.held.add(event);
        group.bytes += event.length + EVENT_COST;
        bytes.addAndGet(event.length + EVENT_COST);
        events.incrementAndGet();
        if (group.held.size() > rule.events()) {
            int cost = group.held.remove().length + EVENT_COST;
            group.bytes -= cost;
            bytes.addAndGet(-cost);
            events.decrementAndGet();
            group.missing++;
            evicted.increment();
        }
    }

    /** Under the group's lock. */
    private void empty(Group group, State state) {
        bytes.addAndGet(-group.bytes);
        events.addAndGet(-group.held.size());
        group.bytes = 0;
        group.missing = 0;
        group.held = new ArrayDeque<>(0);
        group.state = state;
    }

    /** Discards groups whose time has passed, and then the oldest ones until all limits are met. */
    private void makeRoom(long now) {
        Group oldest;
        while ((oldest = byAge.peek()) != null) {
            boolean isOver = isOver(oldest, now);
            if (!isOver && count.get() <= rule.groups() && bytes.get() <= rule.bytes()) {
                return;
            }
            // Another thread may have removed it; then the next one is examined.
            if (byAge.remove(oldest)) {
                letGo(oldest, isOver ? vanished : evicted);
            }
        }
    }

    private boolean isOver(Group group, long now) {
        return now - group.born >= timeNanos;
    }

    private void letGo(Group group, LongAdder counter) {
        groups.remove(group.key, group);
        synchronized (group) {
            counter.add(group.held.size());
            empty(group, State.GONE);
        }
        count.decrementAndGet();
        bytes.addAndGet(-GROUP_COST);
    }

    private enum State {
        HOLDING,
        RELEASED,
        GONE
    }

    /** Guarded by its own lock, except for immutable fields. */
    private static final class Group {
        private final Object key;
        private final long born;
        private Deque<byte[]> held = new ArrayDeque<>();
        private State state = State.HOLDING;
        private long bytes;
        private int missing;

        Group(Object key, long born) {
            this.key = key;
            this.born = born;
        }
    }
}
