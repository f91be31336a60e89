package dev.graphema.query;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.event.Event;
import dev.graphema.query.line.LineShape;
import dev.graphema.query.line.Projection;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Iterator;
import java.util.List;
import java.util.NoSuchElementException;
import java.util.Objects;
import java.util.PriorityQueue;
import java.util.Spliterator;
import java.util.Spliterators;
import java.util.function.BinaryOperator;
import java.util.function.Predicate;
import java.util.function.Supplier;
import java.util.stream.Stream;
import java.util.stream.StreamSupport;

/**
 * Written logs, read as one stream of events. Immutable: each method that narrows gives a new one. Nothing is read before
 * {@link #read} or {@link #newest}.
 *
 * <pre>{@code
 * Logs.at(List.of(Path.of("logs")))
 *         .where(Condition.parse("level >= error"))
 *         .newest(50)
 *         .events()
 *         .forEach(System.out::println);
 * }</pre>
 *
 * <p>Memory does not grow with the files: events are taken from all files in turn, oldest first. Within a file, an event
 * may stand up to {@value #DISORDER} events away from its place in time; the order of what comes out is exact then.
 */
public final class Logs {
    static final int DISORDER = 4096;

    /** The most open files, unless more are needed at the same time. */
    private static final int MOST_OPEN = 64;

    private final List<Path> files;
    private final InputStream stream;
    private final Question question;
    private final LineShape shape;
    private final Predicate<Reading> goesOn;

    private Logs(List<Path> files, InputStream stream, Question question, LineShape shape, Predicate<Reading> goesOn) {
        this.files = files;
        this.stream = stream;
        this.question = question;
        this.shape = shape.asking(question.fieldNames());
        this.goesOn = goesOn;
    }

    /**
     * Returns the logs at paths: files, and folders with all log files below.
     *
     * @throws java.nio.file.NoSuchFileException if a path does not exist
     */
    public static Logs at(List<Path> paths) throws IOException {
        return new Logs(LogFiles.at(paths), null, Question.ALL, LineShape.USUAL, reading -> true);
    }

    /** Returns the log in a stream, which can be read once and is not closed. */
    public static Logs from(InputStream stream) {
        return new Logs(
                List.of(), Objects.requireNonNull(stream, "stream"), Question.ALL, LineShape.USUAL, reading -> true);
    }

    /** Returns the events that match the condition, which replaces an earlier one. */
    public Logs where(Condition condition) {
        Objects.requireNonNull(condition, "condition");
        return asked(new Question(condition, question.window(), question.projection()));
    }

    /** Returns the events in the window, which replaces an earlier one. */
    public Logs during(Window window) {
        Objects.requireNonNull(window, "window");
        return asked(new Question(question.condition(), window, question.projection()));
    }

    /** Reads only these fields, plus time, weight and trace. */
    Logs only(Collection<Name> names) {
        return asked(new Question(question.condition(), question.window(), Projection.of(names)));
    }

    private Logs asked(Question other) {
        return new Logs(files, stream, other, shape, goesOn);
    }

    /** Returns the logs with lines of this shape, which replaces an earlier one. */
    public Logs shaped(LineShape shape) {
        return new Logs(files, stream, question, Objects.requireNonNull(shape, "shape"), goesOn);
    }

    /**
     * Returns the logs with progress reports, at least after each megabyte, on the reading thread.
     *
     * @param goesOn returns whether to continue; if not, reading ends as if there were no more events, and {@link
     *     Reading#isStopped} is true
     */
    public Logs watched(Predicate<Reading> goesOn) {
        return new Logs(files, stream, question, shape, Objects.requireNonNull(goesOn, "goesOn"));
    }

    /** Returns the files to read. */
    public List<Path> files() {
        return files;
    }

    /**
     * Passes on the events, oldest first, until there are no more or the function returns false.
     *
     * @return what was read
     * @throws IOException if a file cannot be read
     */
    public Reading read(Predicate<Event> taker) throws IOException {
        try (Merging events = new Merging()) {
            Event event;
            while ((event = events.next()) != null && taker.test(event)) {
                // the taker has it
            }
            return events.reading;
        }
    }

    /**
     * Returns the events, oldest first, as a stream that must be closed, because files are open. Errors while it is
     * read are thrown as {@link java.io.UncheckedIOException}.
     *
     * @throws IOException if a file cannot be opened
     */
    public Stream<Event> stream() throws IOException {
        Merging events = new Merging();
        Iterator<Event> iterator = new Iterator<>() {
            private Event next;

            @Override
            public boolean hasNext() {
                if (next == null) {
                    try {
                        next = events.next();
                    } catch (IOException e) {
                        throw new UncheckedIOException(e);
                    }
                }
                return next != null;
            }

            @Override
            public Event next() {
                if (!hasNext()) {
                    throw new NoSuchElementException("there are no more events");
                }
                Event event = next;
                next = null;
                return event;
            }
        };
        return StreamSupport.stream(
                        Spliterators.spliteratorUnknownSize(iterator, Spliterator.ORDERED | Spliterator.NONNULL), false)
                .onClose(() -> {
                    try {
                        events.close();
                    } catch (IOException e) {
                        throw new UncheckedIOException(e);
                    }
                });
    }

    /** Receives the content of a stream while it is written. */
    public interface Live {
        /** A matching event, in the order of arrival. */
        void event(Event event);

        /** A line that is not an event. */
        void foreign(String line);

        /** Nothing more can be read at the moment. */
        void idle();
    }

    /**
     * Passes on events as soon as they arrive, until the stream ends.
     *
     * @throws IllegalStateException if the logs are files
     * @throws IOException if the stream cannot be read
     */
    public Reading live(Live taker) throws IOException {
        if (stream == null) {
            throw new IllegalStateException("files are followed by a Follower; live is for streams");
        }
        Reading reading = new Reading(0, goesOn);
        LogFile file = LogFile.of("-", stream, shape, question, reading).live(taker::foreign);
        Event event;
        while ((event = file.next()) != null) {
            taker.event(event);
            if (!file.isMoreAtHand()) {
                taker.idle();
            }
        }
        taker.idle();
        return reading;
    }

    private long size() throws IOException {
        long size = 0;
        for (Path file : files) {
            try {
                size += Files.size(file);
            } catch (NoSuchFileException e) {
                continue; // it went between being listed and being read, which is reported then
            }
        }
        return size;
    }

    /**
     * The newest events.
     *
     * @param limit the most events
     * @param matching the number of matching events
     */
    public record Newest(List<Event> events, long matching, Reading reading) {}

    /** An aggregate, and what was read for it. */
    record Gathered<A>(A result, Reading reading) {}

    /**
     * Aggregates all events, in no order, with several threads that have a result each.
     *
     * @param maker creates a result
     * @param taker adds an event to a result; one thread per result
     * @param merger merges two results
     */
    <A> Gathered<A> gather(Supplier<A> maker, Gathering.Taker<A> taker, BinaryOperator<A> merger) throws IOException {
        Reading reading = new Reading(size(), goesOn);
        if (stream != null) {
            A result = maker.get();
            long[] order = {0};
            // Events from there wait for others, so none may be filled again meanwhile.
            Reading whole = asked(new Question(question.condition(), question.window(), Projection.ALL))
                    .read(event -> {
                        taker.take(result, new WholeRow(event, question.projection()), order[0]++);
                        return true;
                    });
            return new Gathered<>(result, whole);
        }
        Gathering<A> gathering = new Gathering<>(files, question, shape, reading);
        A result = gathering.run(maker, taker, merger);
        return new Gathered<>(result, reading);
    }

    /** Returns the newest events, the oldest of them first. */
    public Newest newest(int limit) throws IOException {
        Gathered<Latest> gathered = only(List.of()).gather(() -> new Latest(limit), Latest::add, Latest::plus);
        List<Event> events = gathered.result().events.stream()
                .sorted()
                .map(placed -> placed.whole.get())
                .filter(Objects::nonNull)
                .toList();
        return new Newest(events, gathered.result().matching, gathered.reading());
    }

    /** The newest of all added events, and the number of added events. */
    private static final class Latest {
        private final int limit;
        private final PriorityQueue<Placed> events = new PriorityQueue<>();
        private long matching;

        Latest(int limit) {
            this.limit = limit;
        }

        void add(EventRow row, long order) {
            matching++;
            // Most of those that are among the latest for now will not be in the end, and need not be read as a whole.
            if (isAmong(row.time(), order)) {
                add(new Placed(row.time(), order, row.keep()));
            }
        }

        private boolean isAmong(long time, long order) {
            if (events.size() < limit) {
                return true;
            }
            Placed first = events.peek();
            return limit > 0 && (time == first.time ? order > first.order : time > first.time);
        }

        private void add(Placed placed) {
            if (isAmong(placed.time, placed.order)) {
                events.add(placed);
                if (events.size() > limit) {
                    events.remove();
                }
            }
        }

        Latest plus(Latest other) {
            other.events.forEach(this::add);
            matching += other.matching;
            return this;
        }
    }

    // Files are merged by the time of the event that each has next; a heap of some thousand events then puts right what
    // stands out of order within a file, as it does when several threads write to it.
    private final class Merging implements Closeable {
        private final Reading reading = new Reading(size(), goesOn);
        private final List<Head> all = new ArrayList<>();
        private final PriorityQueue<Head> heads = new PriorityQueue<>((one, other) -> one.next.compareTo(other.next));
        private final PriorityQueue<Placed> waiting = new PriorityQueue<>();
        private int open;

        Merging() throws IOException {
            try {
                for (Path file : files) {
                    reading.file();
                    add(new Head(file, null, all.size(), this));
                }
                if (stream != null) {
                    add(new Head(null, LogFile.of("-", stream, shape, question, reading), all.size(), this));
                }
            } catch (IOException e) {
                close();
                throw e;
            }
        }

        private void add(Head head) throws IOException {
            all.add(head);
            if (head.advance()) {
                heads.add(head);
                // Of very many files, most come one after the other: those whose turn is later need not be open.
                if (open > MOST_OPEN) {
                    head.rest();
                }
            }
        }

        /** Opens the relevant part of a file; null if there is none. */
        private LogFile opened(Head head) throws IOException {
            if (!head.wasOpen) {
                head.chunk = FileChunk.asOne(head.path, question.window());
            }
            return head.chunk == null ? null : LogFile.open(head.chunk, shape, question, head.part);
        }

        /** Returns the next event, or null if there are no more. */
        Event next() throws IOException {
            while (!heads.isEmpty() && waiting.size() <= DISORDER) {
                Head head = heads.poll();
                waiting.add(head.next);
                if (head.advance()) {
                    heads.add(head);
                }
            }
            Placed first = waiting.poll();
            return first == null ? null : first.whole.get();
        }

        @Override
        public void close() throws IOException {
            for (Head head : all) {
                head.rest();
            }
        }
    }

    /**
     * An event with its time and position, so that events of the same time keep the order of their file.
     *
     * @param whole returns the complete event, or null if the rest of its line is damaged
     */
    private record Placed(long time, long order, Supplier<Event> whole) implements Comparable<Placed> {
        @Override
        public int compareTo(Placed other) {
            return time == other.time ? Long.compare(order, other.order) : Long.compare(time, other.time);
        }
    }

    /** A file, which may be closed until it is needed, and its next event. */
    private static final class Head {
        private final Path path;
        private final Merging merging;
        private FileChunk chunk;
        private LogFile file;
        private Reading part;
        private boolean wasOpen;
        private long order;
        private Placed next;

        /** @param file the open file; null for the file of the path */
        Head(Path path, LogFile file, int index, Merging merging) {
            this.path = path;
            this.file = file;
            this.merging = merging;
            this.order = (long) index << 48;
        }

        boolean advance() throws IOException {
            if (file == null) {
                open();
            }
            Event event = file == null ? null : file.next();
            next = event == null ? null : new Placed(event.epochNanos(), order++, () -> event);
            if (event == null) {
                rest();
            }
            return event != null;
        }

        private void open() throws IOException {
            part = merging.reading.part();
            try {
                file = merging.opened(this);
            } catch (IOException e) {
                part.failed(path, "cannot be read: " + LogFile.told(e));
            }
            merging.open += file == null ? 0 : 1;
            if (wasOpen && file != null) {
                file.next(); // the one event that was taken before the file was closed
                part.restart();
            }
            wasOpen = true;
        }

        /** Closes the file, and adds what was read. */
        void rest() throws IOException {
            if (file != null && part != null) {
                merging.open--;
                file.close();
                file = null;
            }
            if (part != null) {
                merging.reading.add(part);
                part = null;
            }
        }
    }
}
