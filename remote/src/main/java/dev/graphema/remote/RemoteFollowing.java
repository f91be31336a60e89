package dev.graphema.remote;

import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.lines.form.WrittenEvents;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.partial.EventLines;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.Following;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;

/**
 * The events of a collector as they arrive, by server-sent events (HTML standard, section 9.2). A thread of its own reads them, so
 * that a poll does not wait for long. For one thread.
 */
final class RemoteFollowing implements Following {
    private static final String DATA = "data:";
    private static final String EVENT = "event:";
    private static final String MISSED = "missed";
    private static final int MOST_WAITING = 10_000;
    private static final long LONGEST_WAIT_MILLIS = 100;

    private final String name;
    private final InputStream stream;
    private final BufferedReader text;
    private final EventLines lines = WrittenEvents.reader();
    private final CoverageBuilder coverage = new CoverageBuilder(Control.NONE);
    private final BlockingQueue<Message> messages = new LinkedBlockingQueue<>(MOST_WAITING);
    private final Thread thread;
    private volatile boolean isClosed;

    /** A server-sent event; without data, the stream has ended, by the problem if there is one. */
    private record Message(String kind, String data, IOException problem) {}

    RemoteFollowing(CollectorClient client, Condition where, Instant since) throws IOException {
        this.name = client.toString();
        this.stream = client.live(where, since);
        this.text = new BufferedReader(new InputStreamReader(stream, StandardCharsets.UTF_8));
        this.thread = new Thread(this::read, "graphema-following");
        thread.setDaemon(true);
        thread.start();
    }

    private void read() {
        IOException problem = null;
        try {
            Message message;
            while ((message = next()) != null) {
                messages.put(message);
            }
        } catch (IOException e) {
            problem = e;
        } catch (InterruptedException e) {
            return; // it is closed
        }
        try {
            messages.put(new Message("", null, problem));
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** Returns null at the end of the stream. */
    private Message next() throws IOException {
        String kind = "";
        StringBuilder data = new StringBuilder();
        String line;
        while ((line = text.readLine()) != null) {
            if (line.isEmpty() && data.length() > 0) {
                return new Message(kind, data.toString(), null);
            }
            if (line.startsWith(DATA)) {
                data.append(value(line, DATA));
            } else if (line.startsWith(EVENT)) {
                kind = value(line, EVENT);
            }
        }
        return null;
    }

    private static String value(String line, String name) {
        String value = line.substring(name.length());
        return value.startsWith(" ") ? value.substring(1) : value;
    }

    @Override
    public boolean poll(Listener listener) throws IOException {
        try {
            Message message = messages.poll(LONGEST_WAIT_MILLIS, TimeUnit.MILLISECONDS);
            while (message != null) {
                if (message.data() == null) {
                    if (message.problem() != null && !isClosed) {
                        throw message.problem();
                    }
                    return false;
                }
                take(message, listener);
                message = messages.poll();
            }
            return true;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return false;
        }
    }

    private void take(Message message, Listener listener) {
        if (message.kind().equals(MISSED)) {
            coverage.failed(name, message.data() + " events were missed, because they came faster than they were read");
            return;
        }
        Event event = lines.read(message.data(), 0);
        if (event != null) {
            coverage.event();
            listener.event(event);
        }
    }

    @Override
    public Coverage coverage() {
        return coverage.coverage();
    }

    @Override
    public void close() throws IOException {
        isClosed = true;
        thread.interrupt();
        stream.close(); // not the reader, which is locked while the thread waits for the next line
    }
}
