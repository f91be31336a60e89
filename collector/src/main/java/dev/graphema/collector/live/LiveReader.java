package dev.graphema.collector.live;

import dev.graphema.collector.permission.Caller;
import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import jakarta.servlet.AsyncContext;
import jakarta.servlet.ServletOutputStream;
import jakarta.servlet.WriteListener;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.Queue;
import java.util.function.Consumer;

/** Someone who reads events as they arrive. Nobody waits for a slow one: what does not fit its queue is missed. Thread-safe. */
final class LiveReader implements WriteListener {
    private static final int MOST_WAITING = 1_000;
    private static final int MOST_WAITING_BYTES = 256 << 10;
    private static final long PATIENCE_NANOS = 60_000_000_000L;
    private static final byte[] KEEP_ALIVE = ":\n\n".getBytes(StandardCharsets.UTF_8);

    private final AsyncContext context;
    private final ServletOutputStream output;
    private final Caller caller;
    private final Condition where;
    private final Consumer<LiveReader> gone;
    private final Queue<byte[]> waiting = new ArrayDeque<>();
    private int waitingBytes;
    private long missed;
    private boolean isEnded;
    private boolean isFlushed = true;

    /** Whether the container calls when more can be written. */
    private boolean isCalled = true;

    /** @param gone is called when the reader has left */
    LiveReader(AsyncContext context, Caller caller, Condition where, Consumer<LiveReader> gone) throws IOException {
        this.context = context;
        this.output = context.getResponse().getOutputStream();
        this.caller = caller;
        this.where = where;
        this.gone = gone;
    }

    /** Sends the header: from now on, whoever reads knows that nothing is left out. */
    void begin() throws IOException {
        context.getResponse().flushBuffer();
        output.setWriteListener(this);
    }

    /**
     * Returns the text of an event, as the reader sees it; null if the reader does not want it.
     *
     * @param whole the text of the whole event
     */
    byte[] textOf(Event event, EventText whole) {
        if (!caller.visible().matches(event)) {
            return null;
        }
        Event seen = caller.mask() == null ? event : caller.mask().apply(event);
        if (!where.matches(seen)) {
            return null;
        }
        return seen == event ? whole.bytes() : new EventText(seen).bytes();
    }

    /** Returns the condition for past events, which are read from {@link Caller#seen}. */
    Condition where() {
        return caller.mask() == null ? where.and(caller.visible()) : where;
    }

    Caller caller() {
        return caller;
    }

    synchronized boolean isEnded() {
        return isEnded;
    }

    /**
     * Passes on an event when there is room for it.
     *
     * @return false if the reader has left, or takes nothing for a long time
     */
    synchronized boolean offerPatiently(byte[] text) {
        long end = System.nanoTime() + PATIENCE_NANOS;
        try {
            while (!isEnded && isFull(text)) {
                long left = (end - System.nanoTime()) / 1_000_000;
                if (left <= 0) {
                    end();
                    return false;
                }
                wait(left);
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return false;
        }
        if (!isEnded) {
            add(text);
            write();
        }
        return !isEnded;
    }

    private boolean isFull(byte[] text) {
        boolean isLarge = waitingBytes + text.length > MOST_WAITING_BYTES && !waiting.isEmpty();
        return waiting.size() >= MOST_WAITING || isLarge;
    }

    /** Passes on an event, or counts it as missed. */
    synchronized void offer(byte[] text) {
        if (isFull(text)) {
            missed++;
            return;
        }
        reportMissed();
        add(text);
        write();
    }

    /** Counts events that no reader can be given. */
    synchronized void missed(long events) {
        missed += events;
    }

    synchronized void keepAlive() {
        if (waiting.isEmpty()) {
            reportMissed();
            add(KEEP_ALIVE);
            write();
        }
    }

    private void reportMissed() {
        if (missed > 0) {
            add(("event: missed\ndata: " + missed + "\n\n").getBytes(StandardCharsets.UTF_8));
            missed = 0;
        }
    }

    private void add(byte[] text) {
        waiting.add(text);
        waitingBytes += text.length;
    }

    @Override
    public synchronized void onWritePossible() {
        isCalled = false;
        write();
    }

    private void write() {
        if (isCalled || isEnded) {
            return;
        }
        try {
            while (output.isReady()) {
                byte[] text = waiting.poll();
                if (text != null) {
                    waitingBytes -= text.length;
                    notifyAll();
                    output.write(text);
                    isFlushed = false;
                } else if (isFlushed) {
                    return;
                } else {
                    output.flush();
                    isFlushed = true;
                }
            }
            isCalled = true;
        } catch (IOException | IllegalStateException e) {
            end();
        }
    }

    @Override
    public void onError(Throwable problem) {
        end(); // the reader has left
    }

    void end() {
        synchronized (this) {
            if (isEnded) {
                return;
            }
            isEnded = true;
            notifyAll();
        }
        gone.accept(this);
        try {
            context.complete();
        } catch (IllegalStateException e) {
            // the container has ended it already
        }
    }
}
