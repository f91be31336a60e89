package dev.graphema.collector.http;

import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;

/** Notices that the file with the certificates was renewed. A damaged file is reported, and the old one remains in use. */
final class Renewal implements Closeable {
    private static final long EVERY_MILLIS = 2_000;

    private final TlsFile file;
    private final Runnable renewed;
    private final Consumer<String> problems;
    private final ScheduledExecutorService executor = Executors.newSingleThreadScheduledExecutor(task -> {
        Thread thread = new Thread(task, "graphema-certificates");
        thread.setDaemon(true);
        return thread;
    });
    private FileTime version;

    Renewal(TlsFile file, Runnable renewed, Consumer<String> problems) throws IOException {
        this.file = file;
        this.renewed = renewed;
        this.problems = problems;
        this.version = version(file.path());
        executor.scheduleWithFixedDelay(this::check, EVERY_MILLIS, EVERY_MILLIS, TimeUnit.MILLISECONDS);
    }

    private static FileTime version(Path path) throws IOException {
        return Files.getLastModifiedTime(path);
    }

    private void check() {
        try {
            FileTime now = version(file.path());
            if (now.equals(version)) {
                return;
            }
            version = now;
            file.read();
            renewed.run();
        } catch (IOException | RuntimeException | OutOfMemoryError e) {
            problems.accept("the certificates are not renewed: " + e.getMessage());
        }
    }

    @Override
    public void close() {
        executor.shutdownNow();
    }
}
