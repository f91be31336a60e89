package dev.graphema.collector.live;

import dev.graphema.collector.access.Role;
import dev.graphema.collector.audit.Audit;
import dev.graphema.collector.http.Call;
import dev.graphema.collector.http.Endpoint;
import dev.graphema.collector.http.Problem;
import dev.graphema.collector.permission.Access;
import dev.graphema.collector.permission.Caller;
import dev.graphema.collector.permission.Shares;
import dev.graphema.condition.Condition;
import dev.graphema.condition.ConditionException;
import dev.graphema.event.Event;
import dev.graphema.query.Window;
import dev.graphema.segments.store.StoreFollowing;
import dev.graphema.segments.store.StoreSource;
import dev.graphema.text.Times;
import java.io.Closeable;
import java.io.IOException;
import java.time.ZoneOffset;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;

/**
 * Passes on stored events to all who asked for them, as server-sent events (HTML standard, section 9.2). One thread reads each
 * event once; a slow reader misses events and receives their number. One who asks for past events reads the store first, in a thread of its
 * own, and joins the others at a place of the log, so that there is neither a gap nor a duplicate. Thread-safe.
 */
public final class LiveReaders implements Endpoint, Closeable {
    private static final int MOST_READERS = 2_000;
    private static final int MOST_PAST = 16;
    private static final long QUIET_NANOS = TimeUnit.SECONDS.toNanos(15);

    /** What arrives in this time is read at once. */
    private static final long GATHERING_MILLIS = 10;

    private final Shares shares = new Shares("live readers", MOST_READERS, MOST_READERS / 2);
    private final Shares pasts = new Shares("live readers of past events", MOST_PAST, MOST_PAST / 2);
    private final List<LiveReader> readers = new CopyOnWriteArrayList<>();
    private final StoreSource source;
    private final Object feeding = new Object();
    private final Semaphore arrived = new Semaphore(0);
    private final Thread thread = new Thread(this::run, "graphema-live");
    private final Consumer<String> problems;
    private final Access access;
    private final Audit audit;
    private volatile boolean isClosed;

    /** Follows the store while someone reads; else null. */
    private StoreFollowing feed;

    /**
     * @param source the events of the store
     * @param access decides who may read, and which events
     * @param audit records who reads
     * @param problems receives what the operator should know
     */
    public LiveReaders(StoreSource source, Access access, Audit audit, Consumer<String> problems) {
        this.source = source;
        this.access = access;
        this.audit = audit;
        this.problems = problems;
        thread.setDaemon(true);
        thread.start();
    }

    @Override
    public void answer(Call call) throws Problem, IOException {
        Caller caller = access.require(Role.READ, call);
        Condition where = condition(call.parameter("where"));
        Long since = since(call.parameter("since"));
        Shares.Share past = since == null ? null : pasts.take(caller);
        try {
            Shares.Share share = shares.take(caller);
            audit.record("live", caller, call, to -> to.put("where", where.toString()));
            LiveReader reader = new LiveReader(call.endless("text/event-stream"), caller, where, gone -> {
                readers.remove(gone);
                share.close();
            });
            if (since == null) {
                synchronized (feeding) {
                    if (feed == null) {
                        feed = source.divided(Condition.EVERYTHING).following();
                    }
                    readers.add(reader);
                }
                reader.begin();
                return;
            }
            reader.begin();
            PastReading reading =
                    new PastReading(source, reader, new Window(since, Long.MAX_VALUE), this::join, problems);
            reading.start(past);
            past = null;
        } finally {
            if (past != null) {
                past.close();
            }
        }
    }

    /** Adds a reader whose own following is as far as the feed; false if it is not. */
    private boolean join(LiveReader reader, StoreFollowing following) throws IOException {
        synchronized (feeding) {
            if (feed == null) {
                feed = source.divided(Condition.EVERYTHING).following();
            }
            if (!following.place().equals(feed.place())) {
                return false;
            }
            readers.add(reader);
            return true;
        }
    }

    static Condition condition(String text) throws Problem {
        try {
            return text == null ? Condition.EVERYTHING : Condition.parse(text);
        } catch (ConditionException e) {
            throw new Problem(400, "The condition cannot be read", e.getMessage());
        }
    }

    private static Long since(String text) throws Problem {
        Long since = text == null ? null : Times.parse(text, ZoneOffset.UTC);
        if (text != null && since == null) {
            throw new Problem(
                    400,
                    "The time cannot be read",
                    "since is \"" + text + "\": expected a time such as 2026-05-15T06:00:00Z");
        }
        return since;
    }

    /** Is called when events were stored; returns at once. */
    public void stored() {
        if (!readers.isEmpty() && arrived.availablePermits() == 0) {
            arrived.release();
        }
    }

    /** Returns how many are connected. */
    public int connected() {
        return shares.inProgress();
    }

    private void run() {
        long quietSince = System.nanoTime();
        while (!isClosed) {
            try {
                boolean isWoken = arrived.tryAcquire(QUIET_NANOS, TimeUnit.NANOSECONDS);
                TimeUnit.MILLISECONDS.sleep(GATHERING_MILLIS);
                arrived.drainPermits();
                synchronized (feeding) {
                    feed = readers.isEmpty() ? null : feed;
                    if (feed != null) {
                        feed.poll(this::pass);
                    }
                }
                quietSince = isWoken ? quietSince : 0;
                if (System.nanoTime() - quietSince > QUIET_NANOS) {
                    readers.forEach(LiveReader::keepAlive); // so that the connections of those who left are found
                    quietSince = System.nanoTime();
                }
            } catch (InterruptedException e) {
                return;
            } catch (IOException | RuntimeException | OutOfMemoryError e) {
                problems.accept("events could not be passed on as they arrived: " + e);
            }
        }
    }

    private void pass(Event event) {
        EventText text = new EventText(event);
        for (LiveReader reader : readers) {
            byte[] bytes = reader.textOf(event, text);
            if (bytes != null) {
                reader.offer(bytes);
            }
        }
    }

    @Override
    public void close() {
        isClosed = true;
        thread.interrupt();
        readers.forEach(LiveReader::end);
    }
}
