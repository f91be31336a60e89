package dev.graphema.lines;

import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.Following;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Follows files while they are written, across rotation, including new files in folders. Existing content is skipped.
 * For one thread.
 *
 * <p>Files are identified by the file system, not by name: a renamed file is read to its end, and its successor from
 * the beginning. Compressed files are not followed.
 */
final class FileFollowing implements Following {
    private static final int BLOCK = 1 << 20;

    private final List<Path> paths;
    private final LineShape shape;
    private final ShapeFiles shapes;
    private final LineSelection selection;
    private final CoverageBuilder coverage = new CoverageBuilder(Control.NONE);
    private final Map<Object, Followed> followed = new LinkedHashMap<>();

    private static final class Followed {
        private final Path file;
        private final FileChannel channel;
        private long position;
        private byte[] begun = {};

        /** Up to where lines were counted, and their number. */
        private long countedTo;

        private long counted;
        private final FileShape shape;

        Followed(Path file, FileChannel channel, long position, LineShape shape) {
            this.file = file;
            this.shape = new FileShape(file, shape);
            this.channel = channel;
            this.position = position;
        }

        /** Returns the number of lines before a position; 0 if the file cannot be read any more. */
        long linesBefore(long offset) {
            if (offset < countedTo) {
                countedTo = 0; // it was emptied and is written anew
                counted = 0;
            }
            ByteBuffer block = ByteBuffer.allocate(BLOCK);
            try {
                while (countedTo < offset) {
                    int count = channel.read(block.clear().limit((int) Math.min(BLOCK, offset - countedTo)), countedTo);
                    if (count <= 0) {
                        return 0;
                    }
                    countedTo += count;
                    for (int i = 0; i < count; i++) {
                        counted += block.get(i) == '\n' ? 1 : 0;
                    }
                }
                return counted;
            } catch (IOException e) {
                return 0;
            }
        }
    }

    /**
     * Starts at the end of the existing content.
     *
     * @param paths files, and folders with all logs below them
     * @throws IOException if a file cannot be read
     */
    FileFollowing(List<Path> paths, LineShape shape, Condition condition) throws IOException {
        this.paths = List.copyOf(paths);
        this.shapes = new ShapeFiles(this.paths);
        this.selection = LineSelection.of(condition);
        this.shape = shape.asking(selection.fieldNames());
        for (Path file : files()) {
            followed.put(key(file), open(file, Files.size(file)));
        }
    }

    /** Passes on the matching events that were written since the last call, in the order of time. */
    @Override
    public boolean poll(Listener listener) throws IOException {
        List<Event> events = new ArrayList<>();
        Set<Object> there = new HashSet<>();
        for (Path file : files()) {
            try {
                Object key = key(file);
                there.add(key);
                if (!followed.containsKey(key)) {
                    followed.put(key, open(file, 0));
                }
            } catch (NoSuchFileException e) {
                continue; // it disappeared after it was listed
            }
        }
        for (Map.Entry<Object, Followed> each : List.copyOf(followed.entrySet())) {
            read(each.getValue(), events);
            if (!there.contains(each.getKey())) {
                each.getValue().channel.close();
                followed.remove(each.getKey());
            }
        }
        events.sort(Comparator.comparingLong(Event::epochNanos));
        events.forEach(listener::event);
        return true;
    }

    @Override
    public Coverage coverage() {
        return coverage.coverage();
    }

    private List<Path> files() throws IOException {
        List<Path> plain = new ArrayList<>();
        for (Path file : LogFileNames.at(paths)) {
            String name = file.getFileName().toString();
            if (!name.endsWith(".gz") && !name.endsWith(".zst")) {
                plain.add(file);
            }
        }
        return plain;
    }

    private static Object key(Path file) throws IOException {
        BasicFileAttributes attributes = Files.readAttributes(file, BasicFileAttributes.class);
        return attributes.fileKey() == null ? file : attributes.fileKey();
    }

    private Followed open(Path file, long position) throws IOException {
        coverage.files(1, 0);
        return new Followed(file, FileChannel.open(file, StandardOpenOption.READ), position, shape.or(shapes.of(file)));
    }

    private void read(Followed from, List<Event> to) throws IOException {
        if (from.channel.size() < from.position) {
            from.position = 0; // it was emptied and is written anew
            from.begun = new byte[0];
        }
        ByteBuffer block = ByteBuffer.allocate(BLOCK);
        int count;
        while ((count = from.channel.read(block.clear(), from.position)) > 0) {
            from.position += count;
            byte[] bytes = Arrays.copyOf(from.begun, from.begun.length + count);
            block.flip().get(bytes, from.begun.length, count);
            int end = bytes.length;
            while (end > 0 && bytes[end - 1] != '\n') {
                end--;
            }
            from.begun = Arrays.copyOfRange(bytes, end, bytes.length);
            events(from, bytes, end, from.position - bytes.length, to);
            if (from.begun.length > LineShape.MAX_LINE) {
                // A line without an end must not fill the memory; what is left of it will be a line that is no event.
                coverage.unreadable(from.file.toString(), 0, "a line is longer than " + LineShape.MAX_LINE + " bytes");
                from.begun = new byte[0];
            }
        }
    }

    private void events(Followed from, byte[] bytes, int end, long offset, List<Event> to) throws IOException {
        InputStream lines = new ByteArrayInputStream(bytes, 0, end);
        try (LineRows log = LineRows.of(from.file.toString(), lines, from.shape.get(), selection, coverage)
                .at(offset, () -> from.linesBefore(offset))) {
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
