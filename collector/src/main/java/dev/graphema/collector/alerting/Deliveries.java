package dev.graphema.collector.alerting;

import dev.graphema.collector.alert.AlertReceiver;
import dev.graphema.collector.text.FlatJson;
import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ScheduledThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;

/**
 * Delivers notices, again and again until the receiver accepts them, for at most a day. They are in a file until then, so that a restart
 * loses none. Thread-safe.
 */
final class Deliveries implements Closeable {
    private static final String FILE = "notices.jsonl";
    private static final long FIRST_RETRY_MILLIS = 1_000;
    private static final long LONGEST_RETRY_MILLIS = 300_000;
    private static final long LONGEST_MILLIS = TimeUnit.DAYS.toMillis(1);
    private static final int MOST_WAITING = 10_000;
    private static final long LONGEST_END_SECONDS = 5;

    private final Path file;
    private final Map<String, AlertReceiver> receivers = new LinkedHashMap<>();
    private final InstantSource clock;
    private final Consumer<String> problems;
    private final List<Notice> waiting = new ArrayList<>();
    private final SignedPost post = new SignedPost();
    private final SentMail mail = new SentMail();
    private final ScheduledThreadPoolExecutor executor = new ScheduledThreadPoolExecutor(2, task -> {
        Thread thread = new Thread(task, "graphema-notices");
        thread.setDaemon(true);
        return thread;
    });

    /** @throws IOException if the file with notices that are on their way cannot be read */
    Deliveries(Path store, List<AlertReceiver> receivers, InstantSource clock, Consumer<String> problems)
            throws IOException {
        this.file = store.resolve(FILE);
        this.clock = clock;
        this.problems = problems;
        receivers.forEach(each -> this.receivers.put(each.name(), each));
        FlatJson.readLines(file).forEach(each -> waiting.add(Notice.of(each)));
    }

    /** Delivers what was not delivered before the last end. */
    void start() {
        List<Notice> left;
        synchronized (this) {
            left = List.copyOf(waiting);
        }
        left.forEach(each -> executor.execute(() -> deliver(each, clock.millis(), FIRST_RETRY_MILLIS)));
    }

    /** Takes notices; they survive a power failure when this returns. */
    void add(List<Notice> notices) throws IOException {
        synchronized (this) {
            if (waiting.size() + notices.size() > MOST_WAITING) {
                problems.accept(
                        notices.size() + " notices are dropped: " + waiting.size() + " wait for their receivers");
                return;
            }
            waiting.addAll(notices);
            save();
        }
        notices.forEach(each -> executor.execute(() -> deliver(each, clock.millis(), FIRST_RETRY_MILLIS)));
    }

    private void deliver(Notice notice, long begunMillis, long retryMillis) {
        AlertReceiver receiver = receivers.get(notice.receiver());
        try {
            if (receiver instanceof AlertReceiver.Web web) {
                post.send(notice, web, clock.instant());
            } else if (receiver instanceof AlertReceiver.Mail mailbox) {
                mail.send(notice, mailbox, clock.instant());
            }
            done(notice);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt(); // it is delivered after the next start
        } catch (IOException | RuntimeException | OutOfMemoryError e) {
            if (clock.millis() - begunMillis > LONGEST_MILLIS) {
                problems.accept("\"" + notice.subject() + "\" is not delivered to " + notice.receiver() + ": "
                        + e.getMessage());
                done(notice);
                return;
            }
            if (retryMillis == FIRST_RETRY_MILLIS) {
                problems.accept("\"" + notice.subject() + "\" is not delivered to " + notice.receiver() + " yet: "
                        + e.getMessage());
            }
            if (!executor.isShutdown()) {
                executor.schedule(
                        () -> deliver(notice, begunMillis, Math.min(LONGEST_RETRY_MILLIS, 2 * retryMillis)),
                        retryMillis,
                        TimeUnit.MILLISECONDS);
            }
        }
    }

    private synchronized void done(Notice notice) {
        waiting.remove(notice);
        try {
            save();
        } catch (IOException e) {
            problems.accept("a delivered notice is repeated after a restart: " + e.getMessage());
        }
    }

    private void save() throws IOException {
        FlatJson.writeLines(file, waiting.stream().map(Notice::toMap).toList());
    }

    /** Ends attempts; what was not delivered is delivered after the next start. */
    @Override
    public void close() {
        ended(executor);
    }

    /** Ends the tasks of an executor, so that nothing is written to the store any more. One that has begun is not interrupted at once. */
    static void ended(ScheduledThreadPoolExecutor executor) {
        executor.setExecuteExistingDelayedTasksAfterShutdownPolicy(false);
        executor.shutdown();
        try {
            executor.awaitTermination(LONGEST_END_SECONDS, TimeUnit.SECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        executor.shutdownNow();
    }
}
