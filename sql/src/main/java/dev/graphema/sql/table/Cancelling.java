package dev.graphema.sql.table;

import dev.graphema.query.source.CoverageBuilder;
import java.util.concurrent.Future;
import java.util.concurrent.ScheduledThreadPoolExecutor;
import java.util.concurrent.TimeUnit;

/** Cancels statements, while they are executed, if reading is to be stopped. Stateless. */
public final class Cancelling {
    private static final int EVERY_MILLIS = 200;
    private static final int KEPT_SECONDS = 5;
    private static final ScheduledThreadPoolExecutor WATCH = watch();

    private Cancelling() {}

    private static ScheduledThreadPoolExecutor watch() {
        ScheduledThreadPoolExecutor executor = new ScheduledThreadPoolExecutor(1, task -> {
            Thread thread = new Thread(task, "graphema-sql-watch");
            thread.setDaemon(true);
            return thread;
        });
        executor.setKeepAliveTime(KEPT_SECONDS, TimeUnit.SECONDS);
        executor.allowCoreThreadTimeOut(true);
        executor.setRemoveOnCancelPolicy(true);
        return executor;
    }

    /**
     * Begins to watch.
     *
     * @param coverage decides whether to go on
     * @param cancel cancels the statement; an exception ends the watch
     * @return is cancelled when the statement has ended
     */
    public static Future<?> watch(CoverageBuilder coverage, Runnable cancel) {
        return WATCH.scheduleWithFixedDelay(
                () -> {
                    if (!coverage.bytes(0)) {
                        cancel.run();
                    }
                },
                EVERY_MILLIS,
                EVERY_MILLIS,
                TimeUnit.MILLISECONDS);
    }
}
