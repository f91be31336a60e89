package dev.graphema.query;

import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.query.line.LineShape;
import dev.graphema.query.line.Projection;
import java.io.ByteArrayInputStream;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;

/**
 * Follows files while they are written: across rotation, and with files that are new in a folder. What stood there before is passed over. For
 * one thread.
 *
 * <p>A file is known by what the file system calls it, not by its name: one that is renamed is read to its end, and what takes its name is
 * read from its beginning. Compressed files are not followed.
 */
public final class Follower implements Closeable {
    private static final int PIECE = 1 << 20;

    private final List<Path> paths;
    private final LineShape shape;
    private final Question question;
    private final Reading reading = new Reading(0, going -> true);
    private final Map<Path, Followed> followed = new HashMap<>();

    private static final class Followed {
        private final Object key;
        private final FileChannel channel;
        private long position;
        private byte[] begun = {};

        Followed(Object key, FileChannel channel, long position) {
            this.key = key;
            this.channel = channel;
            this.position = position;
        }
    }

    /**
     * Begins to follow, from the end of what is there.
     *
     * @param paths files, and folders with all logs below them
     * @throws IOException when a file cannot be read
     */
    public Follower(List<Path> paths, LineShape shape, Condition condition) throws IOException {
        this.paths = List.copyOf(paths);
        this.shape = shape;
        this.question = new Question(condition, Window.ALWAYS, Projection.ALL);
        for (Path file : files()) {
            open(file, Files.size(file));
        }
    }

    /**
     * Hands over the events that meet the condition and were written since the last call, by time.
     *
     * @throws IOException when a file cannot be read
     */
    public void poll(Consumer<Event> taker) throws IOException {
        List<Event> events = new ArrayList<>();
        for (Path file : files()) {
            follow(file, events);
        }
        events.sort(Comparator.comparingLong(Event::epochNanos));
        events.forEach(taker);
    }

    /** What was read so far, and what could not be. */
    public Reading reading() {
        return reading;
    }

    private List<Path> files() throws IOException {
        List<Path> plain = new ArrayList<>();
        for (Path file : LogFiles.at(paths)) {
            String name = file.getFileName().toString();
            if (!name.endsWith(".gz") && !name.endsWith(".zst")) {
                plain.add(file);
            }
        }
        return plain;
    }

    private void follow(Path file, List<Event> to) throws IOException {
        try {
            Followed known = followed.get(file);
            if (known == null) {
                known = open(file, isKnown(key(file)) ? Files.size(file) : 0);
            }
            if (!key(file).equals(known.key) || Files.size(file) < known.position) {
                read(file, known, to); // what came before it was put aside
                known.channel.close();
                known = open(file, 0);
            }
            read(file, known, to);
        } catch (NoSuchFileException e) {
            followed.remove(file); // it went between being listed and being read
        }
    }

    /** Whether the file is one that is followed by another name. */
    private boolean isKnown(Object key) {
        return followed.values().stream().anyMatch(each -> each.key.equals(key));
    }

    private static Object key(Path file) throws IOException {
        BasicFileAttributes attributes = Files.readAttributes(file, BasicFileAttributes.class);
        return attributes.fileKey() == null ? file : attributes.fileKey();
    }

    private Followed open(Path file, long position) throws IOException {
        Followed opened = new Followed(key(file), FileChannel.open(file, StandardOpenOption.READ), position);
        followed.put(file, opened);
        return opened;
    }

    private void read(Path file, Followed from, List<Event> to) throws IOException {
        ByteBuffer piece = ByteBuffer.allocate(PIECE);
        int count;
        while ((count = from.channel.read(piece.clear(), from.position)) > 0) {
            from.position += count;
            byte[] bytes = java.util.Arrays.copyOf(from.begun, from.begun.length + count);
            piece.flip().get(bytes, from.begun.length, count);
            int end = bytes.length;
            while (end > 0 && bytes[end - 1] != '\n') {
                end--;
            }
            from.begun = java.util.Arrays.copyOfRange(bytes, end, bytes.length);
            events(file, bytes, end, to);
        }
    }

    private void events(Path file, byte[] bytes, int end, List<Event> to) throws IOException {
        try (LogFile log =
                LogFile.of(file.toString(), new ByteArrayInputStream(bytes, 0, end), shape, question, reading)) {
            Event event;
            while ((event = log.next()) != null) {
                to.add(event);
            }
        }
    }

    @Override
    public void close() throws IOException {
        for (Followed each : followed.values()) {
            each.channel.close();
        }
        followed.clear();
    }
}
