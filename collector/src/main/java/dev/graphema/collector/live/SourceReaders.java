package dev.graphema.collector.live;

import dev.graphema.collector.access.Role;
import dev.graphema.collector.http.Call;
import dev.graphema.collector.http.Endpoint;
import dev.graphema.collector.http.Problem;
import dev.graphema.collector.permission.Access;
import dev.graphema.collector.permission.Caller;
import dev.graphema.collector.permission.Shares;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.Following;
import java.io.Closeable;
import java.io.IOException;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;

/** Passes on the events of any source as they arrive, each reader in a thread of its own: for the few readers of a page. Thread-safe. */
public final class SourceReaders implements Endpoint, Closeable {
    private static final int MOST_READERS = 16;
    private static final long POLL_MILLIS = 200;
    private static final long QUIET_NANOS = TimeUnit.SECONDS.toNanos(15);

    private final EventSource source;
    private final Access access;
    private final Consumer<String> problems;
    private final Shares shares = new Shares("live readers", MOST_READERS, MOST_READERS);
    private final List<LiveReader> readers = new CopyOnWriteArrayList<>();

    /** @param problems receives what the user should know */
    public SourceReaders(EventSource source, Access access, Consumer<String> problems) {
        this.source = source;
        this.access = access;
        this.problems = problems;
    }

    @Override
    public void answer(Call call) throws Problem, IOException {
        Caller caller = access.require(Role.READ, call);
        Shares.Share share = shares.take(caller);
        LiveReader reader = null;
        try {
            reader = new LiveReader(
                    call.endless("text/event-stream"), caller, LiveReaders.condition(call.parameter("where")), gone -> {
                        readers.remove(gone);
                        share.close();
                    });
            Following following = source.follow(reader.where());
            readers.add(reader);
            reader.begin();
            LiveReader begun = reader;
            Thread thread = new Thread(() -> pass(following, begun), "graphema-live");
            thread.setDaemon(true);
            thread.start();
        } catch (Problem | IOException | RuntimeException e) {
            share.close();
            throw e;
        }
    }

    private void pass(Following following, LiveReader reader) {
        try (following) {
            long quietSince = System.nanoTime();
            boolean mayContinue = true;
            while (mayContinue && !reader.isEnded()) {
                mayContinue = following.poll(event -> reader.offer(new EventText(event).bytes()));
                if (System.nanoTime() - quietSince > QUIET_NANOS) {
                    reader.keepAlive();
                    quietSince = System.nanoTime();
                }
                TimeUnit.MILLISECONDS.sleep(POLL_MILLIS);
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        } catch (IOException | RuntimeException e) {
            problems.accept("events could not be passed on as they arrived: " + e.getMessage());
        } finally {
            reader.end();
        }
    }

    @Override
    public void close() {
        readers.forEach(LiveReader::end);
    }
}
