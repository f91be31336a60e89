package dev.graphema.collector;

import java.io.Closeable;
import java.io.IOException;
import java.util.ArrayDeque;
import java.util.Deque;

/** What was started, and is closed in the reverse order, all of it also if something fails. */
final class Started implements Closeable {
    private final Deque<Closeable> all = new ArrayDeque<>();

    <T extends Closeable> T add(T started) {
        all.push(started);
        return started;
    }

    @Override
    public void close() throws IOException {
        IOException problem = null;
        while (!all.isEmpty()) {
            try {
                all.pop().close();
            } catch (IOException e) {
                if (problem == null) {
                    problem = e;
                } else {
                    problem.addSuppressed(e);
                }
            }
        }
        if (problem != null) {
            throw problem;
        }
    }
}
