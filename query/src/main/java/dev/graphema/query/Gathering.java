package dev.graphema.query;

import dev.graphema.event.Event;
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
 * Gathers something from all events, in no order, by as many threads as there are processors: each takes the next piece of a file, and has a result of
 * its own; in the end the results are put together.
 */
final class Gathering<A> {
    private final Question question;
    private final LineShape shape;
    private final Reading reading;
    private final List<Piece> pieces = new ArrayList<>();
    private final AtomicInteger next = new AtomicInteger();

    /** Takes an event into a result. */
    interface Taker<A> {
        /**
         * @param event to be looked at and let go of: another one may take its place afterwards
         * @param order by which events of the same time stand in the order of their files and lines
         * @param line where the event was read, of which it may have only what is looked at; to be asked at once
         */
        void take(A result, Event event, long order, Line line);
    }

    /** The line of an event. */
    interface Line {
        /** Keeps what is needed to read all of the event later; then null when the rest of the line is none, which the reading tells. */
        Supplier<Event> keep();
    }

    Gathering(List<Path> files, Question question, LineShape shape, Reading reading) throws IOException {
        this.question = question;
        this.shape = shape;
        this.reading = reading;
        for (Path file : files) {
            List<Piece> ofFile = Piece.of(file, question.window());
            pieces.addAll(ofFile);
            reading.file();
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

    private void piece(int index, A result, Taker<A> taker) throws IOException {
        Piece piece = pieces.get(index);
        Reading own = reading.part();
        try (LogFile file = LogFile.open(piece, shape, question, own)) {
            long order = (long) index << 40;
            Event event;
            while ((event = file.next()) != null) {
                Event read = event;
                taker.take(result, event, order++, () -> file.keep(read));
            }
        }
        reading.add(own);
    }
}
