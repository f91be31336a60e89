package dev.graphema.batch;

import dev.graphema.background.BackgroundThreads;
import dev.graphema.background.Backoff;
import dev.graphema.event.Event;
import dev.graphema.event.EventBytes;
import dev.graphema.event.EventRecord;
import dev.graphema.event.Level;
import dev.graphema.failure.FailurePolicy;
import dev.graphema.option.Option;
import dev.graphema.option.Options;
import dev.graphema.sink.Backlog;
import dev.graphema.sink.RefusedException;
import dev.graphema.sink.Sink;
import dev.graphema.sink.SinkContext;
import dev.graphema.spool.Spool;
import dev.graphema.text.Times;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.random.RandomGenerator;
import java.util.stream.IntStream;

/**
 * Sends events in batches to a receiver outside the process, at least once each, in order.
 *
 * <p>As long as the receiver answers, a batch is sent by the sink's own thread, and flushed means taken. At the first failure
 * the batch goes to the spool on the disk, and everything behind it, too; from then on flushed means lying there, and the
 * sink's thread never waits for the receiver. A second thread empties the spool in order, with growing pauses between failed
 * attempts, and ends when nothing is left. What it does not get rid of before the end, the next start finds.
 *
 * <p>When the spool cannot take an event, because it or the disk is full, writing fails: events then wait in the queue, and
 * the least severe are shed. What the receiver rejects for good is counted and reported, and not tried again.
 */
public final class BatchSink implements Sink {
    public static final Option<Integer> BATCH_EVENTS =
            Option.count("batch.events", 1, 100_000).standard(500).meaning("the most events in a batch");
    public static final Option<Duration> BATCH_WAIT = Option.duration("batch.wait")
            .standard(Duration.ofSeconds(1), "1s")
            .meaning("how long an event waits for others");
    public static final Option<Duration> RETRY_FIRST = Option.duration("retry.first")
            .standard(Duration.ofMillis(250), "250ms")
            .meaning("the pause after the first failed attempt; it doubles with each further one");
    public static final Option<Duration> RETRY_LONGEST = Option.duration("retry.longest")
            .standard(Duration.ofSeconds(30), "30s")
            .meaning("the longest pause between attempts, unless the receiver requests a longer one");

    /** The options of all sinks of this type. */
    public static final List<Option<?>> OPTIONS = List.of(BATCH_EVENTS, BATCH_WAIT, RETRY_FIRST, RETRY_LONGEST);

    /** The most bytes of a batch with more than one event. */
    private static final int MOST_BYTES = 16 * 1024 * 1024;

    /** The same, of a batch from the spool. */
    private static final long MOST_BYTES_AT_ONCE = 1024 * 1024;

    private static final Duration PAUSE_WITHOUT_MEMORY = Duration.ofSeconds(1);

    private final Transmitter transmitter;
    private final SinkContext context;
    private final int most;
    private final Duration patience;
    private final Backoff backoff;
    private final Spool spool;
    private final Object draining = new Object();

    /** Events that were accepted and are neither sent nor in the spool; used by the thread of the sink only. */
    private final EventBatch batch = new EventBatch();

    private final EventBytes bytes = new EventBytes();

    /**
     * The thread that sends the events of the spool, or null if events are sent directly; guarded by {@link #draining}.
     */
    private Thread drainer;

    /** When the oldest event in the spool was emitted. */
    private volatile Instant oldest;

    private volatile boolean closed;

    private BatchSink(Transmitter transmitter, Options options, SinkContext context, RandomGenerator random) {
        this.transmitter = transmitter;
        this.context = context;
        this.most = options.get(BATCH_EVENTS);
        this.patience = options.get(BATCH_WAIT);
        this.backoff = new Backoff(options.get(RETRY_FIRST), options.get(RETRY_LONGEST), random);
        this.spool = spool(context);
    }

    /** Null if no files can be written: then events that are not accepted wait in the queue of the sink. */
    private static Spool spool(SinkContext context) {
        Path folder = context.spool().resolve("waiting");
        try {
            return Spool.open(folder, context.spoolTotal(), context.health()::error);
        } catch (IOException e) {
            context.health()
                    .error("events cannot wait while the receiver is unavailable (" + e
                            + "); they wait in memory and are lost with the process. Set spool: {path: …} to a folder that"
                            + " can be written");
            return null;
        }
    }

    /**
     * Opens the spool and starts to send the events of an earlier run.
     *
     * @param options values of {@link #OPTIONS}
     */
    public static BatchSink open(Transmitter transmitter, Options options, SinkContext context) {
        BatchSink sink = new BatchSink(transmitter, options, context, RandomGenerator.getDefault());
        if (sink.spool != null && !sink.spool.isEmpty()) {
            sink.startDrainer(Duration.ZERO);
        }
        return sink;
    }

    @Override
    public Duration patience() {
        return patience;
    }

    @Override
    public void write(Event event) throws IOException {
        makeRoom();
        batch.add(bytes.write(event));
    }

    @Override
    public void write(EventRecord event) throws IOException {
        makeRoom();
        batch.add(event);
    }

    private void makeRoom() throws IOException {
        if (batch.size() >= most || batch.length() >= MOST_BYTES) {
            flush();
        }
    }

    @Override
    public void flush() throws IOException {
        if (batch.isEmpty()) {
            return;
        }
        synchronized (draining) {
            if (spool != null && (drainer != null || !spool.isEmpty())) {
                toSpool();
                if (drainer == null) {
                    startDrainer(Duration.ZERO); // it could not be started before
                }
                return;
            }
        }
        try {
            send(batch);
            batch.clear();
        } catch (IOException e) {
            if (spool == null) {
                throw e;
            }
            toSpool();
            context.health()
                    .failing("the receiver does not take events (" + described(e) + "); they wait in " + spool
                            + " and are sent when it does");
            backoff.reset();
            startDrainer(backoff.next(e instanceof RetryLaterException later ? later.pause() : null));
        }
    }

    private static String described(Throwable problem) {
        return problem instanceof IOException && problem.getMessage() != null
                ? problem.getMessage()
                : problem.toString();
    }

    @Override
    public Backlog backlog() {
        return spool == null || spool.isEmpty() ? Backlog.NONE : new Backlog(spool.used(), oldest);
    }

    private static Instant time(EventRecord event) {
        return event.hasTime() ? Times.instant(event.epochNanos()) : null;
    }

    /** Moves events to the spool; if the disk becomes full, the remaining events stay in the batch. */
    private void toSpool() throws IOException {
        int added = 0;
        if (spool.isEmpty() && !batch.isEmpty()) {
            oldest = time(batch.get(0));
        }
        try {
            while (added < batch.size()) {
                spool.add(batch.get(added));
                added++;
            }
        } finally {
            batch.removeFirst(added);
        }
    }

    @Override
    public long discard() {
        long count = batch.size();
        batch.clear();
        return count;
    }

    /**
     * Sends the events and counts those that the receiver rejects. If sending fails because of the code or a lack of
     * memory, the batch is divided until the events that cause it are alone: they are counted as lost and do not affect
     * the others.
     */
    private void send(EventBatch events) throws IOException {
        try {
            transmitter.send(events);
        } catch (RefusedException e) {
            context.health().error("the receiver rejects " + e.count() + " events: " + e.getMessage());
            // Not every protocol identifies them: then the least severe are counted.
            IntStream.range(0, events.size())
                    .mapToObj(i -> events.get(i).level())
                    .map(level -> level == null ? Level.INFO : level)
                    .sorted(Comparator.comparing(Level::severity))
                    .limit(e.count())
                    .forEach(context.health()::count);
        } catch (IOException e) {
            throw e;
        } catch (Throwable e) {
            sendInHalves(events, e);
        }
    }

    private void sendInHalves(EventBatch events, Throwable problem) throws IOException {
        if (events.size() == 1) {
            context.health().count(events.get(0).level());
            context.health()
                    .error("an event cannot be sent and is lost ("
                            + problem.getClass().getName() + ")");
            return;
        }
        int middle = events.size() / 2;
        send(events.part(0, middle));
        send(events.part(middle, events.size()));
    }

    private void startDrainer(Duration firstPause) {
        synchronized (draining) {
            Thread thread =
                    BackgroundThreads.daemon("graphema-" + context.name() + "-waiting", () -> drain(firstPause));
            thread.start();
            drainer = thread;
        }
    }

    private void drain(Duration firstPause) {
        pause(firstPause);
        EventBatch events = new EventBatch();
        long sent = 0;
        while (!closed) {
            try {
                events.clear();
                spool.oldest(most, MOST_BYTES_AT_ONCE, events::add);
                oldest = events.isEmpty() ? null : time(events.get(0));
                if (!events.isEmpty()) {
                    send(events);
                    spool.delivered();
                    sent += events.size();
                    backoff.reset();
                } else if (ended()) {
                    context.health().recovered("the receiver takes events again; sent of those that waited: " + sent);
                    return;
                }
            } catch (Throwable e) {
                Duration asked = e instanceof RetryLaterException later ? later.pause() : null;
                FailurePolicy.inBackground(() -> failedAgain(backoff.next(asked), e), this::pauseAfter);
            }
        }
    }

    /** No memory was left for a report. */
    private void pauseAfter(Throwable problem) {
        pause(PAUSE_WITHOUT_MEMORY);
    }

    /** Returns whether the spool is empty; then the thread of the sink sends directly again. */
    private boolean ended() {
        synchronized (draining) {
            if (!spool.isEmpty()) {
                return false;
            }
            drainer = null;
            return true;
        }
    }

    private void failedAgain(Duration pause, Throwable reason) {
        int attempts = backoff.attempts();
        if (attempts > 1 && Integer.bitCount(attempts) == 1 && !closed) {
            context.health()
                    .failing("attempt " + attempts + " failed (" + described(reason) + "); " + spool.used()
                            + " bytes wait in " + spool);
        }
        pause(pause);
    }

    /** Waits for the complete time, even if interrupted, unless the sink is closed. */
    private void pause(Duration pause) {
        long by = System.nanoTime() + pause.toNanos();
        synchronized (draining) {
            long left;
            while (!closed && (left = by - System.nanoTime()) > 0) {
                try {
                    draining.wait(left / 1_000_000 + 1);
                } catch (InterruptedException e) {
                    continue; // closed, or somebody else's mistake
                }
            }
        }
    }

    @Override
    public void close() throws IOException {
        Thread last;
        synchronized (draining) {
            closed = true;
            last = drainer;
            draining.notifyAll();
        }
        if (last != null) {
            last.interrupt();
            try {
                last.join(1_000);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }
        try {
            closeSpool();
        } finally {
            transmitter.close();
        }
    }

    private void closeSpool() throws IOException {
        if (spool != null) {
            if (!spool.isEmpty()) {
                context.health().news(spool.used() + " bytes of events wait in " + spool + " for the next start");
            }
            spool.close();
        }
    }

    @Override
    public String toString() {
        return "batches of " + transmitter;
    }
}
