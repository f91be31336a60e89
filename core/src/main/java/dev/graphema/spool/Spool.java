package dev.graphema.spool;

import dev.graphema.event.Event;
import dev.graphema.event.EventBytes;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Locale;
import java.util.function.Consumer;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import java.util.zip.CRC32C;

/**
 * Events in files, in order, for as long as their receiver is away; a restart finds them again. Bounded: when it is full,
 * nothing more is taken. Safe to share between a thread that adds and one that takes out.
 *
 * <p>The folder holds segments ({@code 0000000000000001.events}, see {@link Segment}) and a file {@code position} that tells up
 * to where they were delivered, locked while the spool is in use. A segment that was delivered is deleted. After the sudden end of the
 * process, the last record may be half and is cut off, and at most one batch is delivered again.
 */
public final class Spool implements Closeable {
    private static final Pattern NAME = Pattern.compile("([0-9]{16})\\.events");
    private static final int SEGMENTS = 16;
    private static final int POSITION_BYTES = 24;

    private final Path folder;
    private final OwnFile position;
    private final long total;
    private final Consumer<String> trouble;
    private final EventBytes bytes = new EventBytes();
    private final Deque<Segment> segments = new ArrayDeque<>();
    private long used;

    /** The highest number that a segment ever had: numbers are not used again, or the position could mean another one. */
    private long lastNumber;

    private long readAt = Segment.HEADER;
    private Segment peekedIn;
    private long peekedTo;

    private Spool(OwnFile position, long total, Consumer<String> trouble) {
        this.position = position;
        this.folder = position.path().toAbsolutePath().getParent();
        this.total = total;
        this.trouble = trouble;
    }

    /**
     * Opens the spool in that folder, with what an earlier run left. When another process uses it, the next free one is
     * taken, with a number behind its name.
     *
     * @param total how many bytes the segments may have together
     * @param trouble told in one line about what is damaged and passed over
     * @throws IOException when the folder cannot be made or used
     */
    public static Spool open(Path folder, long total, Consumer<String> trouble) throws IOException {
        for (int number = 1; ; number++) {
            Path candidate = number == 1 ? folder : Path.of(folder + "." + number);
            OwnFile position = OwnFile.open(candidate.resolve("position"));
            if (!position.path().getFileName().toString().equals("position")) {
                // Somebody has this folder: what was opened is a second file in it, which nobody needs.
                position.close();
                Files.deleteIfExists(position.path());
                continue;
            }
            Spool spool = new Spool(position, total, trouble);
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
                trouble.accept(e.getMessage() + ": it is left where it is, and not delivered");
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
            trouble.accept("the last " + (last.size() - at) + " bytes of " + last.path()
                    + " are no whole event and are cut off");
            used -= last.size() - at;
            last.cutBack(at);
        }
    }

    /** Adds the events in order. @throws IOException when the spool or the disk is full; events before that one are in */
    public synchronized void add(Event event) throws IOException {
        ByteBuffer payload = bytes.write(event);
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

    /** Whether everything was delivered. */
    public synchronized boolean isEmpty() {
        for (Segment segment : segments) {
            if ((segment == segments.peekFirst() ? readAt : Segment.HEADER) < segment.size()) {
                return false;
            }
        }
        return true;
    }

    /** How many bytes lie in the files. */
    public synchronized long used() {
        return used;
    }

    /**
     * The oldest events, which stay until {@link #delivered}.
     *
     * @param most how many at the most
     * @param mostBytes about how large they may be together
     */
    public synchronized List<Event> oldest(int most, long mostBytes) throws IOException {
        List<Event> events = new ArrayList<>();
        while (!segments.isEmpty() && events.isEmpty()) {
            Segment first = segments.peekFirst();
            long at = readAt;
            ByteBuffer payload;
            while (events.size() < most && at - readAt < mostBytes && (payload = first.read(at)) != null) {
                at = Segment.after(at, payload);
                addRead(payload, events);
            }
            peekedIn = first;
            peekedTo = at;
            if (events.isEmpty() && at > readAt) {
                delivered(); // records that cannot be read, and were reported
            } else if (events.isEmpty() && !isOver(first, at)) {
                return events;
            }
        }
        return events;
    }

    private void addRead(ByteBuffer payload, List<Event> events) {
        try {
            events.add(EventBytes.read(payload));
        } catch (IllegalArgumentException e) {
            trouble.accept("a record in " + folder + " is " + e.getMessage() + " and is skipped");
        }
    }

    /** Whether the segment, in which nothing can be read at that place, could be left behind. */
    private boolean isOver(Segment segment, long at) throws IOException {
        boolean isLast = segments.size() == 1;
        if (at < segment.size()) {
            trouble.accept("the last " + (segment.size() - at) + " bytes of " + segment.path()
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

    /** Takes note that what {@link #oldest} returned last has arrived. */
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

    /** Gives the files back; what is in them stays. */
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
