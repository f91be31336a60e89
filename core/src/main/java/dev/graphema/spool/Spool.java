package dev.graphema.spool;

import dev.graphema.event.EventRecord;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Locale;
import java.util.function.Consumer;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import java.util.zip.CRC32C;

/**
 * Stores events in files, in order, while their receiver is unavailable, also across restarts. Limited in size: a full
 * spool accepts no more events. Thread-safe for one thread that adds events and one that takes them.
 *
 * <p>The folder contains segments ({@code 0000000000000001.events}, see {@link Segment}) and a file {@code position},
 * which records what was delivered and is locked while the spool is in use. Delivered segments are deleted. After a
 * sudden end of the process, an incomplete last record is removed, and at most one batch is delivered again.
 */
public final class Spool implements Closeable {
    private static final Pattern NAME = Pattern.compile("([0-9]{16})\\.events");
    private static final int SEGMENTS = 16;
    private static final int POSITION_BYTES = 24;

    private final Path folder;
    private final OwnFile position;
    private final long total;
    private final Consumer<String> error;
    private final EventRecord record = new EventRecord();
    private final Deque<Segment> segments = new ArrayDeque<>();
    private long used;

    /**
     * The highest number of any segment: numbers are not reused, because the position could then refer to another
     * segment.
     */
    private long lastNumber;

    private long readAt = Segment.HEADER;
    private Segment peekedIn;
    private long peekedTo;

    private Spool(OwnFile position, long total, Consumer<String> error) {
        this.position = position;
        this.folder = position.path().toAbsolutePath().getParent();
        this.total = total;
        this.error = error;
    }

    /**
     * Opens the spool in a folder, with the events of an earlier run. If another process uses it, the next free folder
     * is used, with a number after its name.
     *
     * @param total the most bytes of all segments
     * @param error receives one line about damage
     * @throws IOException if the folder cannot be created or used
     */
    public static Spool open(Path folder, long total, Consumer<String> error) throws IOException {
        for (int number = 1; ; number++) {
            Path candidate = number == 1 ? folder : Path.of(folder + "." + number);
            OwnFile position = OwnFile.open(candidate.resolve("position"));
            if (!position.path().getFileName().toString().equals("position")) {
                // Somebody has this folder: what was opened is a second file in it, which nobody needs.
                position.close();
                Files.deleteIfExists(position.path());
                continue;
            }
            Spool spool = new Spool(position, total, error);
            try {
                spool.load();
                return spool;
            } catch (IOException e) {
                spool.close();
                throw e;
            }
        }
    }

    private void load() throws IOException {
        List<Path> files;
        try (Stream<Path> all = Files.list(folder)) {
            files = all.filter(
                            file -> NAME.matcher(file.getFileName().toString()).matches())
                    .sorted()
                    .toList();
        }
        for (Path file : files) {
            Matcher name = NAME.matcher(file.getFileName().toString());
            name.matches();
            long number = Long.parseLong(name.group(1));
            lastNumber = Math.max(lastNumber, number);
            try {
                if (Files.size(file) < Segment.HEADER) {
                    Files.delete(file); // it was being made when its process ended, and holds nothing
                    continue;
                }
                Segment segment = Segment.open(number, file);
                segments.addLast(segment);
                used += segment.size();
            } catch (IOException e) {
                error.accept(e.getMessage() + ": it is left where it is, and not delivered");
            }
        }
        readPosition();
        if (!segments.isEmpty()) {
            cutHalfRecord(segments.getLast());
        }
    }

    private void cutHalfRecord(Segment last) throws IOException {
        long at = segments.size() == 1 ? readAt : Segment.HEADER;
        ByteBuffer payload;
        while ((payload = last.read(at)) != null) {
            at = Segment.after(at, payload);
        }
        if (at < last.size()) {
            error.accept("the last " + (last.size() - at) + " bytes of " + last.path()
                    + " are no whole event and are cut off");
            used -= last.size() - at;
            last.cutBack(at);
        }
    }

    /**
     * Adds an event behind the others.
     *
     * @throws IOException if the spool or the disk is full; the event was not added
     */
    public synchronized void add(EventRecord event) throws IOException {
        ByteBuffer payload = ByteBuffer.wrap(event.array(), event.start(), event.length());
        if (used + payload.remaining() > total) {
            throw new IOException("the spool " + folder + " is full with " + used
                    + " bytes: make the receiver available, or allow more with spool: {total: …}");
        }
        Segment last = segments.peekLast();
        if (last == null || last.size() + payload.remaining() > total / SEGMENTS && last.size() > Segment.HEADER) {
            last = begin(lastNumber + 1);
        }
        long before = last.size();
        last.add(payload);
        used += last.size() - before;
    }

    private Segment begin(long number) throws IOException {
        Path path = folder.resolve(String.format(Locale.ROOT, "%016d.events", number));
        Segment segment = Segment.create(number, path);
        lastNumber = number;
        if (segments.isEmpty()) {
            readAt = Segment.HEADER;
        }
        segments.addLast(segment);
        used += segment.size();
        return segment;
    }

    /** Returns whether all events were delivered. */
    public synchronized boolean isEmpty() {
        for (Segment segment : segments) {
            if ((segment == segments.peekFirst() ? readAt : Segment.HEADER) < segment.size()) {
                return false;
            }
        }
        return true;
    }

    /** Returns the size of the files. */
    public synchronized long used() {
        return used;
    }

    /**
     * Reads the oldest events, which remain until {@link #delivered}.
     *
     * @param most the most events
     * @param mostBytes their approximate total size
     * @param to receives each event, valid during the call
     */
    public synchronized void oldest(int most, long mostBytes, Consumer<EventRecord> to) throws IOException {
        int read = 0;
        while (!segments.isEmpty() && read == 0) {
            Segment first = segments.peekFirst();
            long at = readAt;
            ByteBuffer payload;
            while (read < most && at - readAt < mostBytes && (payload = first.read(at)) != null) {
                at = Segment.after(at, payload);
                read += isRead(payload, to) ? 1 : 0;
            }
            peekedIn = first;
            peekedTo = at;
            if (read == 0 && at > readAt) {
                delivered(); // records that cannot be read, and were reported
            } else if (read == 0 && !isOver(first, at)) {
                return;
            }
        }
    }

    private boolean isRead(ByteBuffer payload, Consumer<EventRecord> to) {
        try {
            record.read(payload.array(), 0, payload.limit());
        } catch (IllegalArgumentException e) {
            error.accept("a record in " + folder + " is " + e.getMessage() + " and is skipped");
            return false;
        }
        to.accept(record);
        return true;
    }

    /**
     * Leaves a segment that cannot be read at this position.
     *
     * @return whether that was possible
     */
    private boolean isOver(Segment segment, long at) throws IOException {
        boolean isLast = segments.size() == 1;
        if (at < segment.size()) {
            error.accept("the last " + (segment.size() - at) + " bytes of " + segment.path()
                    + " are damaged and are skipped");
        } else if (isLast) {
            return false;
        }
        drop(segment);
        return true;
    }

    private void drop(Segment segment) throws IOException {
        segments.removeFirst();
        used -= segment.size();
        readAt = Segment.HEADER;
        segment.close();
        Files.deleteIfExists(segment.path());
    }

    /** Removes the events that {@link #oldest} returned last. */
    public synchronized void delivered() throws IOException {
        if (peekedIn == null || peekedIn != segments.peekFirst()) {
            return;
        }
        Segment delivered = peekedIn;
        peekedIn = null;
        readAt = peekedTo;
        // Before the segment goes: when the process ends in between, the position means a segment that is not there.
        writePosition(delivered.number(), readAt);
        if (readAt >= delivered.size()) {
            drop(delivered);
        }
    }

    private void writePosition(long number, long at) throws IOException {
        ByteBuffer bytes = ByteBuffer.allocate(POSITION_BYTES);
        bytes.putLong(number).putLong(at);
        bytes.putLong(checksum(bytes)).flip();
        while (bytes.hasRemaining()) {
            position.channel().write(bytes, bytes.position());
        }
    }

    private void readPosition() throws IOException {
        ByteBuffer bytes = ByteBuffer.allocate(POSITION_BYTES);
        while (bytes.hasRemaining() && position.channel().read(bytes, bytes.position()) > 0) {
            // on until all is read
        }
        if (bytes.hasRemaining() || bytes.getLong(16) != checksum(bytes)) {
            return; // a new one, or one half written: what was delivered is delivered again
        }
        lastNumber = Math.max(lastNumber, bytes.getLong(0));
        while (!segments.isEmpty() && segments.peekFirst().number() < bytes.getLong(0)) {
            drop(segments.peekFirst());
        }
        if (!segments.isEmpty() && segments.peekFirst().number() == bytes.getLong(0)) {
            readAt = Math.min(bytes.getLong(8), segments.peekFirst().size());
        }
    }

    private static long checksum(ByteBuffer bytes) {
        CRC32C crc = new CRC32C();
        crc.update(bytes.array(), 0, 16);
        return crc.getValue();
    }

    /** Closes the files; their events remain. */
    @Override
    public synchronized void close() throws IOException {
        for (Segment segment : segments) {
            segment.close();
        }
        position.close();
    }

    @Override
    public String toString() {
        return "spool " + folder;
    }
}
