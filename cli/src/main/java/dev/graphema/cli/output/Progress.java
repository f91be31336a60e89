package dev.graphema.cli.output;

import dev.graphema.query.source.Control;
import dev.graphema.text.Durations;
import java.time.Duration;

/** Shows the progress of reading on the error stream if it takes more than a second and is a terminal. */
public final class Progress implements Control {
    private static final long FIRST_NANOS = 1_000_000_000L;
    private static final long EVERY_NANOS = 250_000_000L;

    private final Console console;
    private final long start = System.nanoTime();
    private long shownAt = start + FIRST_NANOS - EVERY_NANOS;
    private int width;

    public Progress(Console console) {
        this.console = console;
    }

    /** Returns whether to continue. */
    @Override
    public boolean continues(Control.Progress progress) {
        long now = System.nanoTime();
        if (console.width() > 0 && now - shownAt >= EVERY_NANOS) {
            shownAt = now;
            show(line(progress, Duration.ofNanos(now - start)));
        }
        return !console.stop().getAsBoolean();
    }

    /** Returns the progress. */
    public static String read(long events, long bytes) {
        return Counted.number(events) + " events, " + Counted.number(bytes >> 20) + " MB";
    }

    public static String line(Control.Progress progress, Duration taken) {
        String read = read(progress.events(), progress.bytes());
        if (progress.totalBytes() == 0 || progress.bytes() == 0) {
            return read;
        }
        double share = Math.min(1, (double) progress.bytes() / progress.totalBytes());
        Duration left = Duration.ofSeconds(Math.round(taken.toMillis() / 1000.0 * (1 - share) / share));
        return Math.round(share * 100) + "% read: " + read + "; " + Durations.text(left) + " left";
    }

    /** Removes the line before other output. */
    public void clear() {
        if (width > 0) {
            show("");
            console.error().print('\r');
            console.error().flush();
            width = 0;
        }
    }

    private void show(String line) {
        console.error().print("\r" + line + " ".repeat(Math.max(0, width - line.length())));
        console.error().flush();
        width = line.length();
    }
}
