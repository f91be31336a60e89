package dev.graphema.pipeline;

import dev.graphema.background.BackgroundThreads;
import dev.graphema.event.Draft;
import dev.graphema.event.EventBytes;
import dev.graphema.event.Level;
import dev.graphema.failure.FailurePolicy;
import dev.graphema.sink.RefusedException;
import java.lang.invoke.VarHandle;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.locks.LockSupport;
import java.util.function.Function;

/**
 * One sink with its queue and its thread, as a state machine.
 *
 * <pre>
 *                start             failure              success
 *   STARTING ------------> RUNNING --------> FAILING ------------> RUNNING
 *                             |                 |
 *                             +----- beginEnd --+
 *                                      |
 *                                      v
 *                                  DRAINING ----> DIRECT (the sink stays open; callers write)
 *                                      |             |
 *                                      |             | beginEnd(CLOSE)
 *                                      v             v
 *                                    ENDED <---------+
 * </pre>
 *
 * <p>The worker owns every call of its sink, every catch, count and pause. An event is in one place at a time: in the queue,
 * in flight (taken from the queue, and not yet flushed), written, or counted as lost. In state ENDED, nothing is queued or in
 * flight. If the thread does not return from its sink in time, the thread that waits for the end takes over the queue, counts its
 * events and those in flight, and the thread of the sink must not access them any more.
 *
 * <p>Callers put events into a bounded queue without locks. When it runs full, detail is dropped first: trace and debug when
 * an eighth is left, info when a sixteenth is left; only warnings and worse use the rest and then wait, for a bounded time.
 * Every dropped event is counted, and the sink itself gets an event with the number as soon as there is room again.
 *
 * <p>When there is nothing to do, the thread looks again every half millisecond for a while (callers then need not wake it,
 * which would cost them a system call for each event), and then sleeps until a caller wakes it. A caller puts its event first
 * and then reads {@link #asleep}; the thread sets that first and then looks into the queue once more: one of the two always
 * sees the other. In the same way, a caller reads the state after its offer, and the thread reads the queue after it has
 * changed the state.
 */
final class SinkWorker extends Delivery implements Runnable {
    static final int BATCH = 256;

    /** What {@link #step} returns when it took events. */
    static final long PROGRESS = 0;

    /** What {@link #step} returns when there was nothing to do. */
    static final long NOTHING = -1;

    private static final long LOOK_AGAIN_NANOS = 500_000;
    private static final int LOOKS_BEFORE_SLEEP = 100;
    private static final long LONGEST_SLEEP_NANOS = 1_000_000_000L;
    private static final long LONGEST_PAUSE_AFTER_FAILURE_NANOS = 1_000_000_000L;
    private static final int LONGEST_PAUSE_EXPONENT = 12;

    /** How long a thread that is interrupted at the end may take to come back from its sink. */
    private static final long LAST_CHANCE_NANOS = 200_000_000;

    private static final String WAITS = "events wait in its queue, the least severe are dropped when it is full";

    /** What a worker does at the moment. */
    enum State {
        STARTING,
        RUNNING,
        FAILING,
        DRAINING,
        DIRECT,
        ENDED
    }

    private final Handover handover;
    private final long longestWaitNanos;
    private final Function<Map<Level, Long>, Draft> lossEvent;
    private final DirectWriter direct = new DirectWriter(this);
    private final CountDownLatch finished = new CountDownLatch(1);
    private final Thread thread;

    private volatile State state = State.STARTING;
    private volatile boolean asleep;
    private volatile boolean flushWanted;
    private volatile Ending ending;
    private volatile long endBy;

    // Guarded by this: the consumer's side of the queue, and what is in flight.
    private final InFlight inFlight = new InFlight();
    private volatile boolean abandoned;
    private volatile boolean complete;

    // Used by the thread alone, or after it has finished.
    private final RecordBatch batch = new RecordBatch(BATCH);
    private boolean flushFailed;
    private int idle;
    private int attempts;
    private long unflushedSince;

    /** The position in the queue up to which events are written; set by the thread of the sink, read by threads that flush. */
    private volatile long writtenUpTo;

    /**
     * @param handover where events wait
     * @param longestWait how long a caller waits with a warning or worse for room in the queue
     * @param lossEvent creates the event that states how many were lost
     */
    SinkWorker(
            String name,
            Pipeline.Target target,
            Handover handover,
            Duration longestWait,
            Function<Map<Level, Long>, Draft> lossEvent) {
        super(name, target);
        this.handover = handover;
        this.longestWaitNanos = longestWait.toNanos();
        this.lossEvent = lossEvent;
        this.thread = new SinkThread(this, "graphema-" + name);
    }

    State state() {
        return state;
    }

    @Override
    synchronized void start() {
        if (state == State.STARTING) {
            state = State.RUNNING;
            thread.start();
        }
    }

    // Callers

    @Override
    long queuedBytes() {
        return handover.waitingBytes();
    }

    @Override
    boolean offer(Draft event) {
        State now = state;
        if (now == State.DIRECT) {
            return direct.write(sink -> sink.write(event.finish()), () -> state == State.DIRECT);
        }
        if (now == State.ENDED || !offerInTime(event)) {
            return false;
        }
        // The event must be visible to the thread that ends before the state is read: one of both settles it.
        VarHandle.fullFence();
        now = state;
        if (now == State.DIRECT || now == State.ENDED) {
            sweep();
        } else if (asleep) {
            LockSupport.unpark(thread);
        }
        return true;
    }

    private boolean offerInTime(Draft event) {
        EventBytes bytes = event.encoded();
        if (bytes.length() > handover.longest()) {
            health.error("an event of " + bytes.length() + " bytes is too long for the queue (at most "
                    + handover.longest() + ") and is lost; log less in one event");
            return false;
        }
        if (event.level().passes(Level.WARN)) {
            return handover.offer(bytes, 0) || offerWaiting(bytes);
        }
        return handover.offer(bytes, event.level().passes(Level.INFO) ? 1 : 2);
    }

    private boolean offerWaiting(EventBytes event) {
        if (Thread.currentThread() == thread) {
            return false; // the sink itself logs an event: it would wait for itself
        }
        long deadline = System.nanoTime() + longestWaitNanos;
        while (ending == null && System.nanoTime() - deadline < 0) {
            LockSupport.parkNanos(LOOK_AGAIN_NANOS / 10);
            if (Thread.currentThread().isInterrupted()) {
                break; // parking returns at once from now on; the caller wants to end
            }
            if (handover.offer(event, 0)) {
                return true;
            }
        }
        return handover.offer(event, 0);
    }

    /** Settles events that were offered while the thread ended: writes them, or counts them. */
    private void sweep() {
        RecordBatch one = new RecordBatch(1);
        while (true) {
            Level level;
            synchronized (this) {
                one.clear();
                level = state == State.DIRECT ? handover.take(one) : null;
                if (level == null) {
                    if (state == State.ENDED) {
                        handover.abandon(health::count);
                    }
                    return;
                }
            }
            if (!direct.write(one::writeTo, () -> state == State.DIRECT)) {
                health.count(level);
            }
        }
    }

    @Override
    boolean awaitWritten(long by) {
        if (state == State.DIRECT) {
            return true;
        }
        long target = handover.offeredUpTo();
        while (writtenUpTo < target) {
            boolean canWrite = state != State.ENDED && Thread.currentThread() != thread;
            if (!canWrite || System.nanoTime() - by >= 0) {
                return writtenUpTo >= target;
            }
            flushWanted = true;
            LockSupport.unpark(thread);
            LockSupport.parkNanos(LOOK_AGAIN_NANOS / 5);
        }
        return true;
    }

    @Override
    void beginEnd(Ending how, long by) {
        start();
        endBy = by;
        ending = how;
        LockSupport.unpark(thread);
    }

    @Override
    boolean awaitEnd() {
        if (Thread.currentThread() == thread) {
            return false; // the sink itself ends its runtime, and would wait for itself
        }
        if (!isFinished(endBy)) {
            thread.interrupt();
            if (!isFinished(System.nanoTime() + LAST_CHANCE_NANOS)) {
                takeOver();
                return false;
            }
        }
        if (ending == Ending.CLOSE) {
            closeAfterDirect();
        }
        return complete && health.total() == 0;
    }

    private boolean isFinished(long by) {
        boolean interrupted = false;
        try {
            while (true) {
                try {
                    return finished.await(Math.max(1, by - System.nanoTime()), TimeUnit.NANOSECONDS);
                } catch (InterruptedException e) {
                    interrupted = true;
                }
            }
        } finally {
            if (interrupted) {
                Thread.currentThread().interrupt();
            }
        }
    }

    /** The thread is stuck in its sink: counts what was queued and in flight, so that nothing is left uncounted. */
    private void takeOver() {
        synchronized (this) {
            if (state == State.DIRECT || state == State.ENDED) {
                return; // it has come back at this very moment
            }
            abandoned = true;
            state = State.ENDED;
            loseRest("did not end in time", Long.MAX_VALUE);
        }
    }

    /**
     * Counts what is queued and in flight, except what the next start finds in a file. The caller holds the lock.
     *
     * @param unwritten how many of the events in flight the sink had taken and not written
     */
    private void loseRest(String why, long unwritten) {
        long notHandedOver = batch.left();
        long count = Math.min(inFlight.size(), unwritten == Long.MAX_VALUE ? unwritten : notHandedOver + unwritten);
        health.failing(why + "; " + handover.waiting() + " and " + count + " in flight are not written");
        if (!handover.outlivesProcess()) {
            inFlight.loseLast(count, health);
            countWritten(inFlight.settle());
        }
        handover.abandon(health::count);
    }

    /** Closes a sink that has stayed open, on the calling thread. */
    private void closeAfterDirect() {
        synchronized (direct) {
            if (state == State.DIRECT) {
                state = State.ENDED;
                closeAll();
            }
        }
        sweep();
    }

    private void closeAll() {
        closeSink();
        try {
            handover.close();
        } catch (Throwable e) {
            health.error("cannot close its hand-over: " + e);
        }
    }

    // The sink's thread

    @Override
    public void run() {
        try {
            while (ending == null) {
                serve();
            }
            drain();
        } finally {
            finish();
            finished.countDown();
        }
    }

    /** Does what there is to do, or waits. Nothing that is thrown ends the thread: it costs a pause, and no event. */
    private void serve() {
        try {
            long pause = step();
            if (pause > 0) {
                pause(pause);
            } else if (pause == PROGRESS) {
                idle = 0;
            } else if (idle++ < LOOKS_BEFORE_SLEEP) {
                LockSupport.parkNanos(LOOK_AGAIN_NANOS);
            } else {
                sleep();
            }
            Thread.interrupted(); // an interrupt must not make the thread spin
        } catch (Throwable e) {
            unexpected(e);
            pause(LONGEST_PAUSE_AFTER_FAILURE_NANOS);
        }
    }

    /** Without memory, not even a report may be possible. */
    private void unexpected(Throwable problem) {
        try {
            failed(problem, WAITS);
        } catch (Throwable e) {
            asleep = false; // the one thing that matters: the thread is awake, and goes on
        }
    }

    /**
     * Writes one batch.
     *
     * @return {@link #PROGRESS}, {@link #NOTHING}, or the nanoseconds to wait after a failure
     */
    long step() {
        // While a flush fails, no further events are taken: what a sink gathers would grow without bound.
        int count = flushFailed ? 0 : fill();
        if (!writeBatch() || fillWithLoss() && !writeBatch()) {
            return pauseAfterFailure();
        }
        if (abandoned) {
            return NOTHING; // what is in flight has been counted as lost
        }
        if (!inFlight.isEmpty()) {
            if (!flushIsDue()) {
                return count > 0 ? PROGRESS : NOTHING;
            }
            if (!flush()) {
                return pauseAfterFailure();
            }
        }
        settle();
        return count > 0 ? PROGRESS : NOTHING;
    }

    /**
     * Takes the next batch when the last one is done.
     *
     * @return how many events there are to write
     */
    private synchronized int fill() {
        if (batch.left() == 0 && !abandoned) {
            batch.clear();
            Level level;
            while (!batch.isFull() && (level = handover.take(batch)) != null) {
                inFlight.add(level);
            }
        }
        return batch.left();
    }

    /** Makes a batch of the event that reports what was lost, as soon as there is room again; false when there is none. */
    private synchronized boolean fillWithLoss() {
        Map<Level, Long> unreported = health.unreported();
        if (abandoned || unreported.isEmpty() || !handover.hasRoom()) {
            return false;
        }
        batch.clear();
        batch.add(lossEvent.apply(unreported).complete().encoded());
        inFlight.addReport();
        health.reported(unreported);
        return true;
    }

    private boolean writeBatch() {
        while (batch.left() > 0) {
            if (!writeNext()) {
                return false;
            }
        }
        return true;
    }

    /** Writes an event that is in flight; false when it is to be tried again. */
    private boolean writeNext() {
        try {
            batch.writeTo(sink);
            attempts = 0;
            unflushedSince = unflushedSince == 0 && patienceNanos() > 0 ? System.nanoTime() : unflushedSince;
            return true;
        } catch (Throwable e) {
            boolean again = isTriedAgain(e, FailurePolicy.Cause.MACHINE);
            if (!again) {
                loseOne();
                batch.skip();
            }
            failing(e, again ? WAITS : "the event is lost");
            return !again;
        }
    }

    /** @param bounded a failure with that cause, and only such a one, is tried again a few times */
    private boolean isTriedAgain(Throwable problem, FailurePolicy.Cause... bounded) {
        if (problem instanceof RefusedException) {
            return false;
        }
        FailurePolicy.Cause cause = FailurePolicy.cause(problem);
        boolean again = cause == FailurePolicy.Cause.ENVIRONMENT
                || List.of(bounded).contains(cause) && ++attempts < FailurePolicy.ATTEMPTS;
        attempts = again ? attempts : 0;
        return again;
    }

    /** The event that is being written is lost. */
    private synchronized void loseOne() {
        if (abandoned) {
            return;
        }
        inFlight.loseFromEnd(batch.left(), health);
    }

    private boolean flush() {
        try {
            sink.flush();
            attempts = 0;
            flushFailed = false;
            return true;
        } catch (Throwable e) {
            boolean again = isTriedAgain(e, FailurePolicy.Cause.MACHINE, FailurePolicy.Cause.CODE);
            flushFailed = again;
            if (!again) {
                loseBatch(discard(), e instanceof RefusedException refused ? refused.count() : 0);
            }
            failing(e, again ? WAITS : "the batch is lost");
            return !again;
        }
    }

    /**
     * Lets the sink drop what it cannot write.
     *
     * @return how many events, or {@link Long#MAX_VALUE} for all
     */
    private long discard() {
        try {
            long dropped = sink.discard();
            return dropped < 0 ? Long.MAX_VALUE : dropped;
        } catch (Throwable e) {
            failing(e, "the sink could not discard its batch");
            return Long.MAX_VALUE;
        }
    }

    /**
     * Counts what is lost of a batch.
     *
     * @param dropped how many of the last events the sink has dropped
     * @param refused how many were rejected before, which the sink does not identify; 0 if it does not report a number
     */
    private synchronized void loseBatch(long dropped, long refused) {
        if (abandoned) {
            return;
        }
        if (refused > 0) {
            inFlight.loseLeastSevere(refused, health);
        } else {
            inFlight.loseLast(dropped, health);
        }
    }

    private void failing(Throwable problem, String consequence) {
        changeState(State.RUNNING, State.FAILING);
        failed(problem, consequence);
    }

    /** Everything that was taken so far is out of the sink or counted. */
    private void settle() {
        synchronized (this) {
            if (abandoned) {
                return;
            }
            long written = inFlight.settle();
            if (written > 0) {
                countWritten(written);
                changeState(State.FAILING, State.RUNNING);
                succeeded();
            }
            unflushedSince = 0;
            handover.written();
            writtenUpTo = handover.takenUpTo();
            flushWanted = false;
        }
    }

    private synchronized void changeState(State from, State to) {
        if (state == from) {
            state = to;
        }
    }

    private long patienceNanos() {
        return sink.patience().toNanos();
    }

    private boolean flushIsDue() {
        long patienceNanos = patienceNanos();
        return patienceNanos == 0
                || flushWanted
                || ending != null
                || System.nanoTime() - unflushedSince >= patienceNanos;
    }

    /** Each pause is twice as long as the one before, up to a second. */
    private long pauseAfterFailure() {
        long pause = LOOK_AGAIN_NANOS << Math.min(failures(), LONGEST_PAUSE_EXPONENT);
        return Math.min(pause, LONGEST_PAUSE_AFTER_FAILURE_NANOS);
    }

    /** Waits the whole time, even if the thread is woken, except that the end is tried at once. */
    private void pause(long nanos) {
        Ending before = ending;
        long until = System.nanoTime() + nanos;
        long left;
        while ((left = until - System.nanoTime()) > 0 && ending == before) {
            Thread.interrupted(); // else parking returns at once
            LockSupport.parkNanos(this, left);
        }
    }

    private void sleep() {
        try {
            sink.idle();
        } catch (Throwable e) {
            failing(e, WAITS);
        }
        asleep = true;
        if (handover.isEmpty() && ending == null && !flushWanted) {
            long patience = inFlight.isEmpty() ? LONGEST_SLEEP_NANOS : patienceNanos();
            LockSupport.parkNanos(Math.min(patience, LONGEST_SLEEP_NANOS));
        }
        asleep = false;
    }

    private void drain() {
        synchronized (this) {
            if (!abandoned) {
                state = State.DRAINING;
            }
        }
        while (!abandoned) {
            long pause = LONGEST_PAUSE_AFTER_FAILURE_NANOS;
            try {
                pause = step();
            } catch (Throwable e) {
                unexpected(e);
            }
            long left = endBy - System.nanoTime();
            if (left <= 0 || pause == NOTHING && handover.isEmpty()) {
                return;
            }
            if (pause == NOTHING) {
                LockSupport.parkNanos(LOOK_AGAIN_NANOS); // a caller is writing its event into the queue
            } else if (pause > 0) {
                pause(Math.min(pause, left));
            }
        }
    }

    private void finish() {
        boolean closes;
        long unwritten = inFlight.isEmpty() ? 0 : discard();
        synchronized (this) {
            closes = ending != Ending.STAY_OPEN;
            if (abandoned) {
                return; // somebody else has counted everything; the sink is the operating system's to close
            }
            complete = inFlight.isEmpty() && handover.isEmpty();
            state = closes || !complete ? State.ENDED : State.DIRECT;
            if (!complete) {
                loseRest("still cannot write", unwritten);
            }
        }
        sweep();
        if (state == State.ENDED) {
            closeAll();
        }
    }

    /** The kind of thread that serves a sink. */
    static final class SinkThread extends Thread {
        private SinkThread(SinkWorker worker, String name) {
            super(null, worker, name, 0, false);
            BackgroundThreads.prepared(this);
        }
    }
}
