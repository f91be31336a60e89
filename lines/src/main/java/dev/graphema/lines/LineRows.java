package dev.graphema.lines;

import static java.nio.charset.StandardCharsets.UTF_8;

import com.github.luben.zstd.ZstdIOException;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.lines.form.JsonLine;
import dev.graphema.lines.form.LineDamage;
import dev.graphema.lines.form.TextLine;
import dev.graphema.lines.form.UnreadableLineException;
import dev.graphema.lines.json.ForeignLine;
import dev.graphema.lines.json.LineFilter;
import dev.graphema.lines.json.LinePrefix;
import dev.graphema.lines.json.LineReader;
import dev.graphema.lines.json.PartialLine;
import dev.graphema.lines.json.ProjectedLine;
import dev.graphema.lines.shape.LinePlace;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.ReadErrors;
import dev.graphema.query.source.Rows;
import dev.graphema.trace.TraceId;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Collections;
import java.util.function.Consumer;
import java.util.function.LongSupplier;
import java.util.function.Supplier;
import java.util.zip.ZipException;

/** An open file, read event by event; it is also the row of the current event. For one thread. */
final class LineRows implements Rows {
    private static final String DAMAGED = "the compressed bytes are cut off or damaged here (";
    /** The most characters that continuation lines add to an event. */
    private static final int MOST_TEXT = 1 << 20;

    private final FileChunk chunk;
    private final LineReader lines;
    private final LineShape shape;
    private final LineSelection selection;
    private final LineFilter filter;
    private final ProjectedLine own;
    private final ForeignLine foreignLine;
    private final boolean isDecided;
    private final CoverageBuilder coverage;

    // The readers of complete lines and of other forms, created when needed because that loads many classes.
    private JsonLine events;
    private TextLine texts;

    // A text event that the next lines may continue, and their text.
    private Draft open;
    private long openPosition;
    private final StringBuilder more = new StringBuilder();

    // An event that was already read, because it ended the one before.
    private Event ready;
    private boolean isOver;

    /** The time of the previous event, which determines the position of an event without a time. */
    private long lastTime;

    // The current event, unless it was read partly.
    private Event event;
    private boolean isPartly;

    /** The reader of the current line if its values were read partly; null if it must be read completely. */
    private PartialLine line;

    private long position;
    private long linesBefore = -1;

    /** Where the bytes begin in the file if the chunk does not define that. */
    private long offset;

    private LongSupplier countedLines;

    // Whether events are passed on as they arrive, and the receiver of lines that are not events.
    private boolean isLive;
    private Consumer<String> foreign = line -> {};

    private LineRows(
            FileChunk chunk, InputStream stream, LineShape shape, LineSelection selection, CoverageBuilder coverage) {
        this.chunk = chunk;
        this.selection = selection;
        this.filter = selection.filter(shape);
        this.own = selection.projectedLine(shape);
        this.foreignLine = selection.foreignLine(shape);
        this.isDecided = selection.isDecidedByFilter(shape);
        this.shape = shape;
        this.lines = new LineReader(stream);
        this.coverage = coverage;
    }

    /** Opens a file or a chunk; gzip (RFC 1952) and zstd (RFC 8878) are recognised by content and decompressed. */
    static LineRows open(FileChunk chunk, LineShape shape, LineSelection selection, CoverageBuilder coverage)
            throws IOException {
        return decompressed(chunk, chunk.open(), shape, selection, coverage);
    }

    private static LineRows decompressed(
            FileChunk chunk, InputStream stream, LineShape shape, LineSelection selection, CoverageBuilder coverage)
            throws IOException {
        InputStream bytes = new CountedStream(stream, coverage);
        try {
            return new LineRows(chunk, Decompression.of(bytes), shape, selection, coverage);
        } catch (EOFException | ZipException e) {
            coverage.unreadable(chunk.file().toString(), 1, DAMAGED + ReadErrors.of(e) + ")");
            return new LineRows(chunk, InputStream.nullInputStream(), shape, selection, coverage);
        }
    }

    /** Returns the rows of a file without events in the window. */
    static LineRows none(Path file, LineShape shape, LineSelection selection, CoverageBuilder coverage) {
        FileChunk chunk = new FileChunk(file, 0, 0, true, null);
        return new LineRows(chunk, InputStream.nullInputStream(), shape, selection, coverage);
    }

    /** Reads a stream, compressed or not, as a file with a name; the caller closes it. */
    static LineRows of(
            String name, InputStream stream, LineShape shape, LineSelection selection, CoverageBuilder coverage)
            throws IOException {
        FileChunk chunk = new FileChunk(Path.of(name), 0, Long.MAX_VALUE, true, null);
        return decompressed(chunk, stream, shape, selection, coverage);
    }

    /** As above, for a stream that is not compressed. */
    static LineRows uncompressed(
            String name, InputStream stream, LineShape shape, LineSelection selection, CoverageBuilder coverage) {
        FileChunk chunk = new FileChunk(Path.of(name), 0, Long.MAX_VALUE, true, null);
        return new LineRows(chunk, new CountedStream(stream, coverage), shape, selection, coverage);
    }

    /**
     * Defines where the bytes begin in the file.
     *
     * @param before returns the number of lines before them
     */
    LineRows at(long offset, LongSupplier before) {
        this.offset = offset;
        this.countedLines = before;
        return this;
    }

    /**
     * Passes on events as soon as they arrive.
     *
     * @param foreign receives lines that are not events
     */
    LineRows live(Consumer<String> foreign) {
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

    @Override
    public boolean advance() throws IOException {
        while (ready != null || hasNextLine()) {
            if (ready == null && isProjected()) {
                if (!(isDecided && line == own) && !selection.contains(line)) {
                    coverage.excluded(1);
                    continue;
                }
                lastTime = line.time();
                position = lines.position();
                isPartly = !selection.projection().isAll();
                if (isPartly || readWhole()) {
                    coverage.event();
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

    /** Returns whether the line is JSON and its projected parts could be read. */
    private boolean isProjected() {
        if (own == null || open != null || lines.isTooLong()) {
            return false;
        }
        line = own.read(lines.bytes(), lines.start(), lines.end())
                ? own
                : isForeign() && foreignLine.read(lines.bytes(), lines.start(), lines.end()) ? foreignLine : null;
        return line != null;
    }

    private boolean isForeign() {
        return foreignLine != null && !LinePrefix.isOwn(lines.bytes(), lines.start(), lines.end());
    }

    /**
     * Reads an event of another form, or one that was already read.
     *
     * @return whether it matches
     */
    private boolean other() throws IOException {
        isPartly = false;
        event = ready;
        position = lines.position();
        ready = null;
        if (event == null && !lines.isBlank()) {
            if (lines.isTooLong()) {
                unreadable("the line is longer than " + LineShape.MAX_LINE + " bytes");
            } else if (lines.isObject()) {
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
        coverage.event();
        lastTime = event.epochNanos();
        return selection.contains(event);
    }

    @Override
    public long time() {
        return isPartly ? line.time() : event.epochNanos();
    }

    @Override
    public long weight() {
        return isPartly ? line.weight() : event.weight();
    }

    @Override
    public TraceId trace() {
        return isPartly ? line.trace() : event.trace();
    }

    @Override
    public Object value(int index) {
        return isPartly ? line.value(index) : selection.projection().value(index, event);
    }

    @Override
    public long position() {
        return chunk.from() + position;
    }

    @Override
    public Event event() {
        if (isPartly && selection.projection().hasFailure()) {
            Event complete = keep().get();
            return complete == null ? line.event() : complete;
        }
        return isPartly ? line.event() : event;
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
                coverage.excluded(lines.passedOver());
            }
            return hasNext && !coverage.isStopped(); // the line may have been cut off
        } catch (EOFException | ZipException | ZstdIOException e) {
            isOver = true;
            if (!coverage.isStopped()) {
                coverage.unreadable(chunk.file().toString(), lines.number() + 1, DAMAGED + ReadErrors.of(e) + ")");
            }
            return false;
        } catch (IOException e) {
            isOver = true;
            coverage.failed(
                    chunk.file().toString(),
                    "cannot be read on from line " + (lines.number() + 1) + ": " + ReadErrors.of(e));
            return false;
        }
    }

    /** Reads an object, which ends the previous event. */
    private void json() throws IOException {
        if (!lines.isInBraces() && texts().matchesPattern(lines.bytes(), lines.start(), lines.end())) {
            text();
            return;
        }
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
            boolean isOwn = LinePrefix.isOwn(lines.bytes(), lines.start(), lines.end());
            Event read = events().read(lines.bytes(), lines.start(), lines.end(), lastTime, isOwn);
            damaged(coverage, lines.number(), events().damage());
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
        byte[] bytes = Arrays.copyOfRange(lines.bytes(), lines.start(), lines.end());
        boolean isOwn = line == own;
        long number = lines.number();
        long place = line.time();
        return () -> {
            try {
                Event read = events().read(bytes, 0, bytes.length, place, isOwn);
                damaged(coverage.whole(), number, events().damage());
                return read;
            } catch (UnreadableLineException e) {
                coverage.whole().unreadable(chunk.file().toString(), linesBefore() + number, e.getMessage());
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
        long place = open == null ? lastTime : open.epochNanos();
        Draft begun = texts().read(lines.bytes(), lines.start(), lines.end(), place);
        if (isLive && !texts().isRecognised()) {
            foreign.accept(line());
            return;
        }
        damaged(coverage, lines.number(), texts().damage());
        event = ended();
        open = begun;
        openPosition = lines.position();
        if (event == null && isLive && !lines.isMoreAtHand()) {
            event = ended(); // lines that go on with it come with it, or not at all
        }
    }

    private void damaged(CoverageBuilder in, long number, LineDamage damage) {
        if (damage != null) {
            in.damaged(chunk.file().toString(), linesBefore() + number, damage.text());
        }
    }

    private JsonLine events() {
        if (events == null) {
            events = new JsonLine(shape, place());
        }
        return events;
    }

    private TextLine texts() {
        if (texts == null) {
            texts = new TextLine(shape, place());
        }
        return texts;
    }

    /** Returns the place of the current line if it is asked for; else null. */
    private LinePlace place() {
        if (Collections.disjoint(shape.asked(), LinePlace.NAMES)) {
            return null;
        }
        return new LinePlace() {
            @Override
            public String file() {
                return chunk.file().toString();
            }

            @Override
            public long number() {
                return linesBefore() + lines.number();
            }

            @Override
            public long offset() {
                return offset + chunk.from() + lines.position();
            }
        };
    }

    private Event ended() {
        Draft draft = open;
        if (draft == null) {
            return null;
        }
        open = null;
        position = openPosition;
        String continued = more.toString();
        more.setLength(0);
        return texts().complete(draft, continued);
    }

    private void unreadable(String reason) {
        coverage.unreadable(chunk.file().toString(), linesBefore() + lines.number(), reason);
        foreign.accept(line());
    }

    /** Returns the number of lines before the chunk; counted only if needed. */
    private long linesBefore() {
        if (linesBefore < 0) {
            try {
                linesBefore = countedLines == null ? chunk.linesBefore() : countedLines.getAsLong();
            } catch (IOException e) {
                linesBefore = 0; // the file cannot be read any more, which is reported when reading continues
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
