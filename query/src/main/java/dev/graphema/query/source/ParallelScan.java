package dev.graphema.query.source;

import dev.graphema.condition.Condition;
import dev.graphema.query.Window;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.partial.Partial;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Supplier;

/**
 * Reads the parts of a plan, in no order, with one thread per processor. Each thread reads parts into its own partial
 * answer; finally, these are merged.
 */
final class ParallelScan<A extends Answer> {
    /** The events per step of a loop. */
    private static final int STEP = 64;

    /** The events after which the control is asked, for sources that do not count bytes. */
    private static final int CONTROLLED = 8192;

    /** Positions of a unit have fewer bits. */
    static final int POSITION_BITS = 40;

    private final List<? extends Part> parts;
    private final Condition remaining;
    private final Window during;
    private final Supplier<Partial<A>> start;
    private final CoverageBuilder coverage;
    private final AtomicInteger next = new AtomicInteger();

    ParallelScan(Plan plan, Window during, Supplier<Partial<A>> start, CoverageBuilder coverage) {
        this.parts = plan.parts();
        this.remaining = plan.remaining();
        this.during = during;
        this.start = start;
        this.coverage = coverage;
    }

    Partial<A> run() throws IOException {
        int threads = Math.min(Runtime.getRuntime().availableProcessors(), parts.size());
        if (threads <= 1) {
            return parts();
        }
        ExecutorService pool = Executors.newFixedThreadPool(threads, task -> {
            Thread thread = new Thread(task, "graphema-query");
            thread.setDaemon(true);
            return thread;
        });
        try {
            List<Future<Partial<A>>> results = new ArrayList<>();
            for (int i = 0; i < threads; i++) {
                results.add(pool.submit(this::parts));
            }
            Partial<A> result = null;
            for (Future<Partial<A>> each : results) {
                Partial<A> one = each.get();
                result = result == null ? one : result.merge(one);
            }
            return result;
        } catch (ExecutionException e) {
            throw exception(e.getCause());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IOException("interrupted while reading", e);
        } finally {
            pool.shutdownNow();
        }
    }

    private static IOException exception(Throwable cause) {
        if (cause instanceof IOException io) {
            return io;
        }
        if (cause instanceof UncheckedIOException io) {
            return io.getCause();
        }
        if (cause instanceof Error error) {
            throw error; // above all OutOfMemoryError, for which callers have an answer
        }
        throw cause instanceof RuntimeException e ? e : new IllegalStateException(cause);
    }

    private Partial<A> parts() throws IOException {
        Partial<A> partial = start.get();
        int index;
        // From the end: if the newest events are wanted, few of those that are read later are needed.
        while ((index = parts.size() - 1 - next.getAndIncrement()) >= 0
                && !coverage.isStopped()
                && !partial.isComplete()) {
            part(parts.get(index), partial);
        }
        return partial;
    }

    private void part(Part part, Partial<A> partial) {
        CoverageBuilder own = coverage.part();
        try {
            if (!part.addTo(partial, own)) {
                rows(part, partial, own);
            }
        } catch (IOException e) {
            own.failed(part.name(), "cannot be read: " + ReadErrors.of(e));
        }
        coverage.add(own);
    }

    private void rows(Part part, Partial<A> partial, CoverageBuilder own) throws IOException {
        long order = (long) part.unit() << POSITION_BITS;
        boolean takesAll = remaining.isEverything() && during.isAlways();
        try (Rows rows = part.open(own)) {
            long read = 0;
            while (takesAll ? some(rows, order, partial) : someMatching(rows, order, partial)) {
                read += STEP;
                if (partial.isComplete() || read % CONTROLLED == 0 && !own.bytes(0)) {
                    return;
                }
            }
        }
    }

    /** Returns the order of an event among events of the same time. */
    static long order(Part part, Rows rows) {
        return ((long) part.unit() << POSITION_BITS) + rows.position();
    }

    /**
     * Adds some events.
     *
     * @return false at the end. A small method that is called often is compiled early.
     */
    private boolean some(Rows rows, long order, Partial<A> partial) throws IOException {
        for (int i = 0; i < STEP; i++) {
            if (!rows.advance()) {
                return false;
            }
            partial.add(rows, order + rows.position());
        }
        return true;
    }

    private boolean someMatching(Rows rows, long order, Partial<A> partial) throws IOException {
        for (int i = 0; i < STEP; i++) {
            if (!rows.advance()) {
                return false;
            }
            if (during.contains(rows.time()) && (remaining.isEverything() || remaining.matches(rows.event()))) {
                partial.add(rows, order + rows.position());
            }
        }
        return true;
    }
}
