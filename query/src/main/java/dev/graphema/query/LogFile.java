package dev.graphema.query;

import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import java.io.BufferedInputStream;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.zip.GZIPInputStream;

/** One open file, read event by event. For one thread. */
final class LogFile implements Closeable {
    private static final int BUFFER = 256 * 1024;

    private final Path path;
    private final LineReader lines;
    private final EventReader events = new EventReader();
    private final Reading reading;

    private LogFile(Path path, InputStream stream, Reading reading) {
        this.path = path;
        this.lines = new LineReader(stream);
        this.reading = reading;
        reading.file();
    }

    /** Opens a file; one that begins as gzip (RFC 1952) is decompressed, whatever its name. */
    static LogFile open(Path path, Reading reading) throws IOException {
        return new LogFile(path, stream(path), reading);
    }

    /** The bytes of a file, decompressed where need be. */
    static InputStream stream(Path path) throws IOException {
        InputStream stream = new BufferedInputStream(Files.newInputStream(path), BUFFER);
        try {
            stream.mark(2);
            boolean gzip = stream.read() == 0x1F && stream.read() == 0x8B;
            stream.reset();
            return gzip ? new GZIPInputStream(stream, BUFFER) : stream;
        } catch (IOException e) {
            stream.close();
            throw e;
        }
    }

    /** Reads a stream that somebody else closes, called by a name of its own. */
    static LogFile of(String name, InputStream stream, Reading reading) {
        return new LogFile(Path.of(name), new BufferedInputStream(stream, BUFFER), reading);
    }

    /**
     * The next event in the window for which the condition holds, or null at the end.
     *
     * @param filter rules out lines that cannot hold such an event, before they are read
     */
    Event next(LineFilter filter, Condition condition, Window window) throws IOException {
        while (lines.next()) {
            if (lines.isBlank()) {
                continue;
            }
            if (lines.isTooLong()) {
                reading.unreadable(path, lines.number(), "the line is longer than " + LineReader.MAX_LINE + " bytes");
                continue;
            }
            // A line that does not even look like an event is read all the same, to tell what is wrong with it.
            if (lines.isInBraces() && !filter.mayMatch(lines.bytes(), lines.start(), lines.end())) {
                reading.passedOver();
                continue;
            }
            try {
                Event event = events.read(lines.bytes(), lines.start(), lines.end());
                reading.event();
                if (window.contains(event.epochNanos()) && condition.matches(event)) {
                    return event;
                }
            } catch (UnreadableLineException e) {
                reading.unreadable(path, lines.number(), e.getMessage());
            }
        }
        return null;
    }

    @Override
    public void close() throws IOException {
        lines.close();
    }
}
