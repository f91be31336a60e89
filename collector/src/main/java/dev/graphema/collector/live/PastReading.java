package dev.graphema.collector.live;

import dev.graphema.collector.permission.Shares;
import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.query.Question;
import dev.graphema.query.Window;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.segments.store.StoreFollowing;
import dev.graphema.segments.store.StoreSource;
import java.io.IOException;
import java.util.function.Consumer;

/**
 * Sends past events to a reader, oldest first, and then those that have arrived meanwhile, until the reader is as far as all others. The
 * reader is waited for, because nothing needs to be left out yet.
 */
final class PastReading {
    private final StoreSource source;
    private final LiveReader reader;
    private final Window during;
    private final Joining joining;
    private final Consumer<String> problems;

    /** Adds a reader to the others. */
    interface Joining {
        /** Returns false if the following of the reader is not as far as they are. */
        boolean join(LiveReader reader, StoreFollowing following) throws IOException;
    }

    /**
     * @param joining adds the reader to the others if its following is as far as they are; else returns false
     * @param problems receives what the operator should know
     */
    PastReading(StoreSource source, LiveReader reader, Window during, Joining joining, Consumer<String> problems) {
        this.source = source;
        this.reader = reader;
        this.during = during;
        this.joining = joining;
        this.problems = problems;
    }

    /** @param share is given back when the reader has joined the others */
    void start(Shares.Share share) {
        Thread thread = new Thread(
                () -> {
                    try (share) {
                        run();
                    } catch (IOException | RuntimeException | OutOfMemoryError e) {
                        problems.accept("past events could not be passed on: " + e);
                        reader.end();
                    }
                },
                "graphema-live-past");
        thread.setDaemon(true);
        thread.start();
    }

    private void run() throws IOException {
        StoreSource.PastAndFollowing divided = source.divided(Condition.EVERYTHING);
        QueryExecutor.read(
                Question.where(reader.where()).during(during),
                reader.caller().seen(divided.past()),
                progress -> !reader.isEnded(),
                this::send);
        try (StoreFollowing following = divided.following()) {
            while (!reader.isEnded() && !joining.join(reader, following)) {
                following.poll(event -> {
                    byte[] bytes = reader.textOf(event, new EventText(event));
                    if (bytes != null) {
                        reader.offerPatiently(bytes);
                    }
                });
            }
        }
    }

    /** Returns whether the reader is still there. */
    private boolean send(Event event) {
        return reader.offerPatiently(new EventText(event).bytes());
    }
}
