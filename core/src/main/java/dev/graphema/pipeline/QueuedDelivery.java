package dev.graphema.pipeline;

import dev.graphema.event.Event;
import dev.graphema.event.Level;
import java.io.IOException;
import java.time.Duration;
import java.util.Map;
import java.util.concurrent.locks.LockSupport;
import java.util.function.Function;

/**
 * One sink with its queue and its thread.
 *
 * <p>Callers put events into a bounded queue without locks. When it runs full, detail goes first: trace and debug are shed
 * when an eighth is left, info when a sixteenth is left, and only warnings and worse use the rest and then wait, for a
 * bounded time. Every event shed is counted, and the sink itself gets an event that says how many, as soon as there is
 * room again.
 *
 * <p>The sink's thread takes batches. When there is nothing to do, it looks again every half millisecond for a while
 * (callers then need not wake it, which would cost them a system call for each event), and then sleeps until a caller
 * wakes it. A caller puts its event first and then reads {@link #asleep}; the thread sets that first and then looks into
 * the queue once more: one of the two always sees the other.
 */
final class QueuedDelivery extends Delivery implements Runnable {
    static final int BATCH = 256;

    private static final long LOOK_AGAIN_NANOS = 500_000;
    private static final int LOOKS_BEFORE_SLEEP = 100;
    private static final long LONGEST_SLEEP_NANOS = 1_000_000_000L;
    private static final long LONGEST_PAUSE_AFTER_FAILURE_NANOS = 1_000_000_000L;

    private static final String WAITS = "events wait in its queue, the least severe are shed when it is full";

    private final Handover handover;
    private final long longestWaitNanos;
    private final Function<Map<Level, Long>, Event> lossEvent;
    private final Thread thread;

    private volatile boolean asleep;
    private volatile boolean closing;
    private volatile boolean ended;
    private volatile boolean flushWanted;
    private volatile long closeBy;

    // Read and written by the sink's thread alone, or after it has ended.
    private int unflushed;
    private long unflushedSince;
    private Event retry;

    /** The hand-over's place up to which events are out of the sink; set by its thread, read by whoever flushes. */
    private volatile long writtenUpTo;

    /**
     * @param handover where events wait
     * @param longestWait how long a caller waits with a warning or worse for room in the queue
     * @param lossEvent makes the event that tells how many were shed
     */
    QueuedDelivery(
            String name,
            Pipeline.Target target,
            Handover handover,
            Duration longestWait,
            Function<Map<Level, Long>, Event> lossEvent) {
        super(name, target);
        this.handover = handover;
        this.longestWaitNanos = longestWait.toNanos();
        this.lossEvent = lossEvent;
        this.thread = new SinkThread(this, "graphema-" + name);
    }

    @Override
    void start() {
        thread.start();
    }

    @Override
    void handOver(Event event) {
        if (!tryOffer(event) || ended) {
            // An event that comes just when the thread ends may be written and counted; never is one neither.
            health.count(event.level());
        } else if (asleep) {
            LockSupport.unpark(thread);
        }
    }

    private boolean tryOffer(Event event) {
        if (event.level().passes(Level.WARN)) {
            return handover.offer(event, 0) || offerWaiting(event);
        }
        return handover.offer(event, event.level().passes(Level.INFO) ? 1 : 2);
    }

    private boolean offerWaiting(Event event) {
        if (Thread.currentThread() == thread) {
            return false; // the sink itself said something: it would wait for itself
        }
        long deadline = System.nanoTime() + longestWaitNanos;
        while (!closing && System.nanoTime() < deadline) {
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

    @Override
    public void run() {
        int idle = 0;
        while (true) {
            if (step() > 0) {
                idle = 0;
            } else if (closing) {
                break;
            } else if (idle++ < LOOKS_BEFORE_SLEEP) {
                LockSupport.parkNanos(LOOK_AGAIN_NANOS);
            } else {
                sleep();
            }
        }
        end();
    }

    private void sleep() {
        try {
            sink.idle();
        } catch (IOException | RuntimeException | LinkageError | StackOverflowError e) {
            failed(e, WAITS);
        }
        asleep = true;
        if (handover.isEmpty() && !closing && !flushWanted) {
            LockSupport.parkNanos(unflushed > 0 ? Math.min(patienceNanos(), LONGEST_SLEEP_NANOS) : LONGEST_SLEEP_NANOS);
        }
        asleep = false;
    }

    /** Writes one batch and returns how many events it took from the queue. */
    int step() {
        int count = retry == null ? 0 : 1;
        if (retry != null && !write(retry)) {
            return pauseAfterFailure();
        }
        retry = null;
        Event event;
        while (count < BATCH && (event = handover.take()) != null) {
            count++;
            if (!write(event)) {
                retry = event;
                return pauseAfterFailure();
            }
        }
        tellLoss();
        if (unflushed > 0) {
            if (!flushIsDue()) {
                return count;
            }
            if (!flush()) {
                return pauseAfterFailure();
            }
        }
        handover.written();
        writtenUpTo = handover.takenUpTo();
        flushWanted = false;
        return count;
    }

    private long patienceNanos() {
        return sink.patience().toNanos();
    }

    private boolean flushIsDue() {
        long patienceNanos = patienceNanos();
        return patienceNanos == 0 || flushWanted || closing || System.nanoTime() - unflushedSince >= patienceNanos;
    }

    private boolean write(Event event) {
        try {
            sink.write(event);
            if (unflushed++ == 0) {
                unflushedSince = patienceNanos() == 0 ? 0 : System.nanoTime();
            }
            return true;
        } catch (IOException e) {
            failed(e, WAITS);
            return false;
        } catch (RuntimeException | LinkageError | StackOverflowError e) {
            // Not a fault of the world but of the sink's code with this event: trying again would stop all behind it.
            failed(e, "the event is lost");
            health.count(event.level());
            return true;
        }
    }

    private boolean flush() {
        try {
            sink.flush();
            countWritten(unflushed);
            unflushed = 0;
            succeeded();
            return true;
        } catch (IOException | RuntimeException | LinkageError | StackOverflowError e) {
            failed(e, WAITS);
            return false;
        }
    }

    private int pauseAfterFailure() {
        if (closing && System.nanoTime() - closeBy >= 0) {
            return 0;
        }
        long pause = LOOK_AGAIN_NANOS << Math.min(failures(), 12);
        LockSupport.parkNanos(this, Math.min(pause, LONGEST_PAUSE_AFTER_FAILURE_NANOS));
        return 1;
    }

    private void tellLoss() {
        Map<Level, Long> untold = health.untold();
        if (!untold.isEmpty() && handover.hasRoom() && write(lossEvent.apply(untold))) {
            health.told(untold);
        }
    }

    @Override
    void beginClose(long by) {
        closeBy = by;
        closing = true;
        LockSupport.unpark(thread);
    }

    @Override
    boolean awaitClose() throws InterruptedException {
        long left = closeBy - System.nanoTime();
        thread.join(Math.max(1, left / 1_000_000));
        if (thread.isAlive()) {
            health.trouble("did not end in time; " + handover.waiting() + " are not written");
            thread.interrupt();
            return false;
        }
        return health.total() == 0;
    }

    private void end() {
        ended = true;
        while (step() > 0) {
            // events that came while the last ones were written
        }
        if (unflushed > 0 || retry != null || !handover.isEmpty()) {
            health.trouble("still cannot write; " + handover.waiting() + " and " + (unflushed + (retry == null ? 0 : 1))
                    + " in its hands are not written");
        }
        closeSink();
        try {
            handover.close();
        } catch (IOException e) {
            health.trouble("cannot close its hand-over: " + e);
        }
    }

    @Override
    boolean awaitWritten(long by) {
        long target = handover.offeredUpTo();
        while (writtenUpTo < target) {
            if (System.nanoTime() - by >= 0 || !thread.isAlive()) {
                return writtenUpTo >= target;
            }
            flushWanted = true;
            LockSupport.unpark(thread);
            LockSupport.parkNanos(LOOK_AGAIN_NANOS / 5);
        }
        return true;
    }

    /** The kind of thread that serves a sink. */
    static final class SinkThread extends Thread {
        private SinkThread(QueuedDelivery delivery, String name) {
            super(delivery, name);
            setDaemon(true);
        }
    }
}
