package dev.graphema.query;

import dev.graphema.query.line.LineShape;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.BinaryOperator;
import java.util.function.Supplier;

/**
 * Aggregates all events, in no order, with one thread per processor. Each thread reads chunks into its own result;
 * finally, the results are merged.
 */
final class Gathering<A> {
    /** The events per step of a loop. */
    private static final int STEP = 64;

    private final Question question;
    private final LineShape shape;
    private final Reading reading;
    private final List<FileChunk> pieces = new ArrayList<>();
    private final AtomicInteger next = new AtomicInteger();

    /** Adds an event to a result. */
    interface Taker<A> {
        /** @param order keeps events of the same time in the order of files and lines */
        void take(A result, EventRow row, long order);
    }

    Gathering(List<Path> files, Question question, LineShape shape, Reading reading) {
        this.question = question;
        this.shape = shape;
        this.reading = reading;
        for (Path file : files) {
            reading.file();
            try {
                pieces.addAll(FileChunk.of(file, question.window()));
            } catch (IOException e) {
                reading.failed(file, "cannot be read: " + LogFile.told(e));
            }
        }
    }

    A run(Supplier<A> maker, Taker<A> taker, BinaryOperator<A> merger) throws IOException {
        int threads = Math.min(Runtime.getRuntime().availableProcessors(), pieces.size());
        if (threads <= 1) {
            return pieces(maker.get(), taker);
        }
        ExecutorService pool = Executors.newFixedThreadPool(threads, task -> {
            Thread thread = new Thread(task, "graphema-query");
            thread.setDaemon(true);
            return thread;
        });
        try {
            List<Future<A>> results = new ArrayList<>();
            for (int i = 0; i < threads; i++) {
                results.add(pool.submit(() -> pieces(maker.get(), taker)));
            }
            A result = null;
            for (Future<A> each : results) {
                A one = each.get();
                result = result == null ? one : merger.apply(result, one);
            }
            return result;
        } catch (ExecutionException e) {
            throw thrown(e.getCause());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IOException("interrupted while reading", e);
        } finally {
            pool.shutdownNow();
        }
    }

    private static IOException thrown(Throwable cause) {
        if (cause instanceof IOException io) {
            return io;
        }
        if (cause instanceof UncheckedIOException io) {
            return io.getCause();
        }
        throw cause instanceof RuntimeException e ? e : new IllegalStateException(cause);
    }

    private A pieces(A result, Taker<A> taker) throws IOException {
        int index;
        // From the end, so that of the newest events those that come later to be read are seldom wanted.
        while ((index = pieces.size() - 1 - next.getAndIncrement()) >= 0 && !reading.isStopped()) {
            piece(index, result, taker);
        }
        return result;
    }

    /** Adds some events. @return their number. A small method that is called often is compiled early. */
    private int some(LogFile file, long order, A result, Taker<A> taker) throws IOException {
        int taken = 0;
        while (taken < STEP && file.advance()) {
            taker.take(result, file, order + taken);
            taken++;
        }
        return taken;
    }

    private void piece(int index, A result, Taker<A> taker) {
        FileChunk piece = pieces.get(index);
        Reading own = reading.part();
        try (LogFile file = LogFile.open(piece, shape, question, own)) {
            long order = (long) index << 40;
            int taken;
            do {
                taken = some(file, order, result, taker);
                order += taken;
            } while (taken == STEP);
        } catch (IOException e) {
            own.failed(piece.file(), "cannot be read: " + LogFile.told(e));
        }
        reading.add(own);
    }
}
