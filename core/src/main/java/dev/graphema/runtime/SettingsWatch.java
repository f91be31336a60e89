package dev.graphema.runtime;

import dev.graphema.background.BackgroundThreads;
import dev.graphema.failure.FailurePolicy;
import dev.graphema.settings.SettingsSource;
import java.time.Duration;
import java.util.concurrent.locks.LockSupport;

/** Checks the settings files periodically on a background thread, and reports changes. */
final class SettingsWatch implements AutoCloseable {
    /** How long a changed file must remain unchanged before it is read. */
    private static final long QUIET_NANOS = 100_000_000;

    private final SettingsSource source;
    private final Runnable changed;
    private final FailurePolicy.Reporter failed;
    private final Thread thread;
    private final long everyNanos;
    private volatile boolean closed;

    private SettingsWatch(Duration every, SettingsSource source, Runnable changed, FailurePolicy.Reporter failed) {
        this.failed = failed;
        this.source = source;
        this.changed = changed;
        this.everyNanos = every.toNanos();
        this.thread = BackgroundThreads.daemon("graphema-settings", this::watch);
    }

    /** @param failed receives exceptions of checks and changes; the watch continues */
    static SettingsWatch start(Duration every, SettingsSource source, Runnable changed, FailurePolicy.Reporter failed) {
        SettingsWatch watch = new SettingsWatch(every, source, changed, failed);
        watch.thread.start();
        return watch;
    }

    private void watch() {
        while (!closed) {
            LockSupport.parkNanos(everyNanos);
            FailurePolicy.inBackground(this::look, failed);
        }
    }

    private void look() {
        if (!closed && source.hasChanged()) {
            awaitEndOfWriting();
            changed.run();
        }
    }

    /** Many editors empty a file before they write it, so its content is incomplete for a moment. */
    private void awaitEndOfWriting() {
        int before;
        do {
            before = source.contents();
            LockSupport.parkNanos(QUIET_NANOS);
        } while (!closed && source.contents() != before);
    }

    @Override
    public void close() {
        closed = true;
        LockSupport.unpark(thread);
    }
}
