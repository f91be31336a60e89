package dev.graphema.query;

import static java.nio.charset.StandardCharsets.UTF_8;

import com.github.luben.zstd.ZstdIOException;
import com.github.luben.zstd.ZstdInputStream;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.TraceId;
import dev.graphema.query.line.JsonLine;
import dev.graphema.query.line.LineFilter;
import dev.graphema.query.line.LineReader;
import dev.graphema.query.line.LineShape;
import dev.graphema.query.line.OwnLine;
import dev.graphema.query.line.TextLine;
import dev.graphema.query.line.UnreadableLineException;
import java.io.BufferedInputStream;
import java.io.ByteArrayInputStream;
import java.io.Closeable;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.io.SequenceInputStream;
import java.nio.file.AccessDeniedException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.function.Consumer;
import java.util.function.Supplier;
import java.util.zip.GZIPInputStream;
import java.util.zip.ZipException;

/** An open file, read event by event; it is also the row of the current event. For one thread. */
final class LogFile implements EventRow, Closeable {
    private static final int BUFFER = 256 * 1024;
    private static final String DAMAGED = "the compressed bytes are cut off or damaged here (";
    private static final int MAGIC = 4;
    private static final byte[] GZIP = {0x1F, (byte) 0x8B};
    private static final byte[] ZSTD = {0x28, (byte) 0xB5, 0x2F, (byte) 0xFD};

    /** The most characters that continuation lines add to an event. */
    private static final int MOST_TEXT = 1 << 20;

    private final FileChunk piece;
    private final LineReader lines;
    private final LineShape shape;
    private final Question question;
    private final LineFilter filter;
    private final OwnLine own;
    private final boolean isDecided;
    private final Reading reading;

    // What reads lines that are not in our own form, and whole ones: made when the first one comes, since that loads
    // many classes.
    private JsonLine events;
    private TextLine texts;

    // A text event to which the next lines may add, and what they added.
    private Draft open;
    private final StringBuilder more = new StringBuilder();

    // An event that was read already, behind one that it ended.
    private Event ready;
    private boolean isOver;

    /** The time of the previous event, which determines the position of an event without a time. */
    private long lastTime;

    // The event to which it has gone, unless that is partly read of a line in our own form.
    private Event event;
    private boolean isPartly;
    private long linesBefore = -1;

    // Whether somebody waits for each event as it comes, and what takes the lines that are none.
    private boolean isLive;
    private Consumer<String> foreign = line -> {};

    private LogFile(FileChunk piece, InputStream stream, LineShape shape, Question question, Reading reading) {
        this.piece = piece;
        this.question = question;
        this.filter = question.filter();
        this.own = question.ownLine();
        this.isDecided = question.isDecidedByFilter();
        this.shape = shape;
        this.lines = new LineReader(stream);
        this.reading = reading;
    }

    /** Opens a file or a chunk; gzip (RFC 1952) and zstd (RFC 8878) are recognised by content and decompressed. */
    static LogFile open(FileChunk piece, LineShape shape, Question question, Reading reading) throws IOException {
        return decompressed(piece, piece.open(), shape, question, reading);
    }

    private static LogFile decompressed(
            FileChunk piece, InputStream stream, LineShape shape, Question question, Reading reading)
            throws IOException {
        InputStream bytes = new CountedStream(stream, reading);
        try {
            return new LogFile(piece, stream(bytes), shape, question, reading);
        } catch (EOFException | ZipException e) {
            reading.unreadable(piece.file(), 1, DAMAGED + told(e) + ")");
            return new LogFile(piece, InputStream.nullInputStream(), shape, question, reading);
        }
    }

    /** Describes why a file cannot be read. */
    static String told(IOException problem) {
        if (problem instanceof AccessDeniedException) {
            return "not allowed; check who may read it";
        }
        return problem.getMessage() == null ? problem.getClass().getSimpleName() : problem.getMessage();
    }

    /** Opens the decompressed bytes of a file. */
    static InputStream stream(Path path) throws IOException {
        return stream(Files.newInputStream(path));
    }

    private static InputStream stream(InputStream bytes) throws IOException {
        try {
            byte[] head = bytes.readNBytes(MAGIC);
            InputStream whole = new SequenceInputStream(new ByteArrayInputStream(head), bytes);
            if (startsWith(head, GZIP)) {
                return new GZIPInputStream(new BufferedInputStream(whole, BUFFER), BUFFER);
            }
            return startsWith(head, ZSTD)
                    ? new ZstdInputStream(new BufferedInputStream(whole, BUFFER)).setContinuous(true)
                    : whole; // whoever reads lines has a buffer
        } catch (IOException e) {
            bytes.close();
            throw e;
        }
    }

    private static boolean startsWith(byte[] head, byte[] magic) {
        return head.length >= magic.length && Arrays.equals(head, 0, magic.length, magic, 0, magic.length);
    }

    /** Reads a stream, compressed or not, as a file with a name; the caller closes it. */
    static LogFile of(String name, InputStream stream, LineShape shape, Question question, Reading reading)
            throws IOException {
        reading.file();
        FileChunk piece = new FileChunk(Path.of(name), 0, Long.MAX_VALUE, true, null);
        return decompressed(piece, stream, shape, question, reading);
    }

    /** Passes on events as soon as they arrive. @param foreign receives lines that are not events */
    LogFile live(Consumer<String> foreign) {
        this.isLive = true;
        this.foreign = foreign;
        return this;
    }

    /** Returns whether more can be read without waiting. */
    boolean isMoreAtHand() throws IOException {
        return ready != null || lines.isMoreAtHand();
    }

    /** Returns the next matching event, or null at the end. A projected event is valid until the next call. */
    Event next() throws IOException {
        return advance() ? event() : null;
    }

    /** Moves to the next matching event. @return false at the end */
    boolean advance() throws IOException {
        while (ready != null || hasNextLine()) {
            if (ready == null && isOwn()) {
                if (!isDecided && !question.isAbout(own)) {
                    reading.passedOver(1);
                    continue;
                }
                lastTime = own.time();
                isPartly = !question.projection().isAll();
                if (isPartly || readWhole()) {
                    reading.event();
                    return true;
                }
            } else if (other()) {
                return true;
            }
        }
        isPartly = false;
        event = ended();
        return isWanted();
    }

    /** Returns whether the line is Graphema JSON and its projected parts could be read. */
    private boolean isOwn() {
        return own != null && open == null && !lines.isTooLong() && own.read(lines.bytes(), lines.start(), lines.end());
    }

    /** Reads an event of another form, or one that was already read. @return whether it matches */
    private boolean other() throws IOException {
        isPartly = false;
        event = ready;
        ready = null;
        if (event == null && !lines.isBlank()) {
            if (lines.isTooLong()) {
                unreadable("the line is longer than " + LineReader.MAX_LINE + " bytes");
            } else if (lines.isInBraces()) {
                json();
            } else {
                text();
            }
        }
        return isWanted();
    }

    private boolean isWanted() {
        if (event == null) {
            return false;
        }
        reading.event();
        lastTime = event.epochNanos();
        return question.isAbout(event);
    }

    @Override
    public long time() {
        return isPartly ? own.time() : event.epochNanos();
    }

    @Override
    public long weight() {
        return isPartly ? own.weight() : event.weight();
    }

    @Override
    public TraceId trace() {
        return isPartly ? own.trace() : event.trace();
    }

    @Override
    public Object value(int index) {
        return isPartly ? own.value(index) : question.projection().value(index, event);
    }

    @Override
    public Event event() {
        return isPartly ? own.event() : event;
    }

    /** Moves to the next line. Damaged or incomplete compressed data ends the file. */
    private boolean hasNextLine() throws IOException {
        try {
            if (isOver) {
                return false;
            }
            boolean hasNext;
            // A line that is passed over still ends an event of several lines before it.
            if (filter == LineFilter.ALL || open != null) {
                hasNext = lines.next();
            } else {
                hasNext = lines.next(filter);
                reading.passedOver(lines.passedOver());
            }
            return hasNext && !reading.isStopped(); // the line may have been cut off
        } catch (EOFException | ZipException | ZstdIOException e) {
            isOver = true;
            if (!reading.isStopped()) {
                reading.unreadable(piece.file(), lines.number() + 1, DAMAGED + told(e) + ")");
            }
            return false;
        } catch (IOException e) {
            isOver = true;
            reading.failed(piece.file(), "cannot be read on from line " + (lines.number() + 1) + ": " + told(e));
            return false;
        }
    }

    /** Reads a line in braces, which ends the previous event. */
    private void json() {
        Event before = ended();
        readWhole();
        if (before != null) {
            ready = event;
            event = before;
        }
    }

    private boolean readWhole() {
        event = whole();
        return event != null;
    }

    private Event whole() {
        try {
            Event read = events().read(lines.bytes(), lines.start(), lines.end(), lastTime);
            if (events().damage() != null) {
                reading.damaged(piece.file(), linesBefore() + lines.number(), events().damage());
            }
            return read;
        } catch (UnreadableLineException e) {
            unreadable(e.getMessage());
            return null;
        }
    }

    @Override
    public Supplier<Event> keep() {
        if (!isPartly) {
            Event last = event;
            return () -> last;
        }
        byte[] line = Arrays.copyOfRange(lines.bytes(), lines.start(), lines.end());
        long number = lines.number();
        long place = own.time();
        return () -> {
            try {
                Event read = events().read(line, 0, line.length, place);
                if (events().damage() != null) {
                    reading.whole().damaged(piece.file(), linesBefore() + number, events().damage());
                }
                return read;
            } catch (UnreadableLineException e) {
                reading.whole().unreadable(piece.file(), linesBefore() + number, e.getMessage());
                return null;
            }
        };
    }

    /** Reads a line of text, which ends the previous event if it begins another one. */
    private void text() throws IOException {
        if (open != null && texts().isContinuation(lines.bytes(), lines.start(), lines.end())) {
            if (more.length() < MOST_TEXT) {
                more.append(more.isEmpty() ? "" : "\n").append(line());
            }
            return;
        }
        try {
            Draft begun = texts().read(lines.bytes(), lines.start(), lines.end());
            event = ended();
            open = begun;
            if (event == null && isLive && !lines.isMoreAtHand()) {
                event = ended(); // lines that go on with it come with it, or not at all
            }
        } catch (UnreadableLineException e) {
            unreadable(lines.bytes()[lines.start()] == '{' ? "not JSON: the object has no end" : e.getMessage());
        }
    }

    private JsonLine events() {
        if (events == null) {
            events = new JsonLine(shape);
        }
        return events;
    }

    private TextLine texts() {
        if (texts == null) {
            texts = new TextLine(shape);
        }
        return texts;
    }

    private Event ended() {
        Draft draft = open;
        if (draft == null) {
            return null;
        }
        open = null;
        if (!more.isEmpty()) {
            TextLine.add(draft, more.toString());
            more.setLength(0);
        }
        return draft.finish();
    }

    private void unreadable(String reason) {
        reading.unreadable(piece.file(), linesBefore() + lines.number(), reason);
        foreign.accept(line());
    }

    /** Returns the number of lines before the chunk; counted only if needed. */
    private long linesBefore() {
        if (linesBefore < 0) {
            try {
                linesBefore = piece.linesBefore();
            } catch (IOException e) {
                linesBefore = 0; // the file cannot be read any more, which reading on will tell
            }
        }
        return linesBefore;
    }

    private String line() {
        return new String(lines.bytes(), lines.start(), lines.end() - lines.start(), UTF_8);
    }

    @Override
    public void close() throws IOException {
        lines.close();
    }
}
