package dev.graphema.collector.live;

import dev.graphema.collector.access.Role;
import dev.graphema.collector.http.Call;
import dev.graphema.collector.http.Endpoint;
import dev.graphema.collector.http.Problem;
import dev.graphema.collector.permission.Access;
import dev.graphema.collector.permission.Caller;
import dev.graphema.collector.permission.Shares;
import dev.graphema.condition.Condition;
import dev.graphema.condition.ConditionException;
import dev.graphema.event.Event;
import dev.graphema.lines.LineStream;
import dev.graphema.query.source.Following;
import java.io.ByteArrayInputStream;
import java.io.Closeable;
import java.io.IOException;
import java.util.List;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Consumer;

/**
 * Passes on stored events to all who asked for them, as server-sent events (HTML standard, section 9.2). One thread reads each
 * event once; a slow reader misses events and is told how many. Thread-safe.
 */
public final class LiveReaders implements Endpoint, Closeable {
    private static final int MOST_READERS = 2_000;

    /** The most bodies that wait to be passed on, and their bytes. */
    private static final int MOST_WAITING = 1_000;

    private static final long MOST_WAITING_BYTES = 32 << 20;

    private static final long QUIET_SECONDS = 15;

    private final Shares shares = new Shares("live readers", MOST_READERS, MOST_READERS / 2);
    private final List<LiveReader> readers = new CopyOnWriteArrayList<>();
    private final BlockingQueue<byte[]> waiting = new ArrayBlockingQueue<>(MOST_WAITING);
    private final AtomicLong waitingBytes = new AtomicLong();
    private final Thread thread = new Thread(this::run, "graphema-live");
    private final Consumer<String> problems;
    private final Access access;
    private volatile boolean isClosed;

    /**
     * @param access decides who may read, and which events
     * @param problems receives what the operator should know
     */
    public LiveReaders(Access access, Consumer<String> problems) {
        this.access = access;
        this.problems = problems;
        thread.setDaemon(true);
        thread.start();
    }

    @Override
    public void answer(Call call) throws Problem, IOException {
        Caller caller = access.require(Role.READ, call);
        Condition where = condition(call.parameter("where")).and(caller.visible());
        Shares.Share share = shares.take(caller);
        LiveReader reader = new LiveReader(call.endless("text/event-stream"), where, gone -> {
            readers.remove(gone);
            share.close();
        });
        readers.add(reader);
        reader.begin();
    }

    private static Condition condition(String text) throws Problem {
        try {
            return text == null ? Condition.EVERYTHING : Condition.parse(text);
        } catch (ConditionException e) {
            throw new Problem(400, "The condition cannot be read", e.getMessage());
        }
    }

    /** Receives stored lines; returns at once. */
    public void stored(byte[] lines) {
        if (readers.isEmpty()) {
            return;
        }
        boolean isRoom = waitingBytes.addAndGet(lines.length) <= MOST_WAITING_BYTES || waiting.isEmpty();
        if (!isRoom || !waiting.offer(lines)) {
            waitingBytes.addAndGet(-lines.length);
            long missed = count(lines);
            readers.forEach(reader -> reader.missed(missed));
        }
    }

    private static long count(byte[] lines) {
        long count = 0;
        for (byte each : lines) {
            count += each == '\n' ? 1 : 0;
        }
        return Math.max(1, count);
    }

    private void run() {
        while (!isClosed) {
            try {
                byte[] lines = waiting.poll(QUIET_SECONDS, TimeUnit.SECONDS);
                if (lines == null) {
                    readers.forEach(LiveReader::keepAlive); // so that the connections of those who left are found
                } else {
                    waitingBytes.addAndGet(-lines.length);
                    pass(lines);
                }
            } catch (InterruptedException e) {
                return;
            } catch (IOException | RuntimeException e) {
                problems.accept("events could not be passed on as they arrived: " + e);
            }
        }
    }

    private void pass(byte[] lines) throws IOException {
        LineStream stream = new LineStream(new ByteArrayInputStream(lines));
        try (Following following = stream.follow(Condition.EVERYTHING)) {
            boolean goesOn = true;
            while (goesOn) {
                goesOn = following.poll(this::pass);
            }
        }
    }

    private void pass(Event event) {
        EventText text = new EventText(event);
        for (LiveReader reader : readers) {
            if (reader.wants(event)) {
                reader.offer(text.bytes());
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
