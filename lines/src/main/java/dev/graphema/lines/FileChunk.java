package dev.graphema.lines;

import dev.graphema.holdback.HoldBackRule;
import dev.graphema.lines.json.LinePrefix;
import dev.graphema.query.Window;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.stream.Stream;

/**
 * A range of complete lines of a file, which can be read independently. Uncompressed files of JSON lines are divided
 * into chunks, which several threads read. Of a file in the order of time, only the part in the window is read; its
 * bounds are found by bisection.
 *
 * <p>A file counts as sorted if its first and last line, and lines at {@value #PROBES} positions in between, are
 * Graphema JSON and in the order of time, up to ten minutes; other files are read completely. Held-back events can be
 * late by ten minutes, and the file sink starts a new file if the clock was set back.
 *
 * @param file the file
 * @param from the begin of the chunk
 * @param to the end of the chunk
 * @param isWhole whether it is the complete file, compressed or not
 * @param identity identifies the file when it is renamed; null if the file system does not
 */
record FileChunk(Path file, long from, long to, boolean isWhole, Object identity) {
    private static final long LONGEST = 16L << 20;

    /** Chunks start small and grow, so that the JIT compiler sees complete chunk loops early. */
    private static final long SHORTEST = 256L << 10;

    private static final int OF_A_LENGTH = 4;
    private static final int LENGTHENED = 4;

    private static final int PROBES = 32;

    /** How late a line can be: as long as events can be held back, and some seconds in a queue. */
    private static final long SLACK_NANOS =
            HoldBackRule.LONGEST_TIME.plusSeconds(10).toNanos();

    private static final int PROBE_BYTES = 64 * 1024;

    private static final String ROTATED = "it was rotated while it was read; run the command again";
    private static final int MOST_ATTEMPTS = 10;

    /** Returns the chunks that may contain events of the window, in order; empty if there are none. */
    static List<FileChunk> of(Path file, Window window) throws IOException {
        FileChunk complete = complete(file);
        if (!complete.isRegular()) {
            return List.of(complete);
        }
        try (FileChannel channel = complete.openFile(complete::located)) {
            FileChunk part = complete.part(channel, window);
            if (part == null || part.isWhole()) {
                return part == null ? List.of() : List.of(part);
            }
            return part.cut(channel);
        }
    }

    /** Returns the part that may contain events of the window as one chunk; null if there is none. */
    static FileChunk asOne(Path file, Window window) throws IOException {
        FileChunk complete = complete(file);
        if (!complete.isRegular()) {
            return complete;
        }
        try (FileChannel channel = complete.openFile(complete::located)) {
            return complete.part(channel, window);
        }
    }

    private static FileChunk complete(Path file) throws IOException {
        BasicFileAttributes attributes = Files.readAttributes(file, BasicFileAttributes.class);
        return attributes.isRegularFile()
                ? new FileChunk(file, 0, attributes.size(), true, attributes.fileKey())
                : new FileChunk(file, 0, Long.MAX_VALUE, true, null);
    }

    /** Returns whether the end is known, which it is not for a pipe. */
    private boolean isRegular() {
        return to < Long.MAX_VALUE;
    }

    private FileChunk part(FileChannel channel, Window window) throws IOException {
        long size = channel.size();
        ByteBuffer first = ByteBuffer.allocate(1);
        boolean isJson = channel.read(first, 0) == 1 && first.get(0) == '{';
        if (!isJson) {
            return new FileChunk(file, 0, size, true, identity);
        }
        long begin = 0;
        long end = size;
        if (!window.isAlways() && isSorted(channel, size)) {
            begin = window.from() < Long.MIN_VALUE + SLACK_NANOS
                    ? 0
                    : firstFrom(channel, size, window.from() - SLACK_NANOS);
            end = window.to() > Long.MAX_VALUE - SLACK_NANOS
                    ? size
                    : firstFrom(channel, size, window.to() + SLACK_NANOS);
        }
        boolean isComplete = begin == 0 && end == size && size <= SHORTEST;
        return begin < end ? new FileChunk(file, begin, end, isComplete, identity) : null;
    }

    private List<FileChunk> cut(FileChannel channel) throws IOException {
        List<FileChunk> chunks = new ArrayList<>();
        long length = SHORTEST;
        long end = to;
        while (end > from) {
            long begin = end - from <= length ? from : lineFrom(channel, end - length);
            boolean isLongerLine = begin >= end;
            if (!isLongerLine) {
                chunks.add(new FileChunk(file, begin, end, false, identity));
                end = begin;
            }
            if (isLongerLine || chunks.size() % OF_A_LENGTH == 0 && length < LONGEST) {
                length *= LENGTHENED;
            }
        }
        Collections.reverse(chunks);
        return chunks;
    }

    /** Returns the begin of the first line at or after the position. */
    private static long lineFrom(FileChannel channel, long position) throws IOException {
        if (position == 0) {
            return 0;
        }
        ByteBuffer buffer = ByteBuffer.allocate(PROBE_BYTES);
        long at = position - 1;
        while (channel.read(buffer.clear(), at) > 0) {
            buffer.flip();
            for (int i = 0; i < buffer.limit(); i++) {
                if (buffer.get(i) == '\n') {
                    return at + i + 1;
                }
            }
            at += buffer.limit();
        }
        return channel.size();
    }

    /** Returns the time of the line that begins here, or null if it is not Graphema JSON. */
    private static Long timeAt(FileChannel channel, long position) throws IOException {
        ByteBuffer buffer = ByteBuffer.allocate(LinePrefix.BYTES_WITH_TIME);
        int count = channel.read(buffer, position);
        return count < buffer.capacity() ? null : LinePrefix.time(buffer.array(), 0);
    }

    private static boolean isSorted(FileChannel channel, long size) throws IOException {
        long latest = Long.MIN_VALUE;
        for (int i = 0; i <= PROBES; i++) {
            long at = i == PROBES ? lastLine(channel, size) : lineFrom(channel, size / PROBES * i);
            if (at >= size) {
                continue;
            }
            Long time = timeAt(channel, at);
            if (time == null || latest != Long.MIN_VALUE && time < latest - SLACK_NANOS) {
                return false;
            }
            latest = Math.max(latest, time);
        }
        return latest != Long.MIN_VALUE;
    }

    private static long lastLine(FileChannel channel, long size) throws IOException {
        long from = Math.max(0, size - PROBE_BYTES);
        ByteBuffer buffer = ByteBuffer.allocate((int) (size - from));
        int count = channel.read(buffer, from);
        for (int i = count - 2; i >= 0; i--) {
            if (buffer.get(i) == '\n') {
                return from + i + 1;
            }
        }
        return from;
    }

    /** Returns the begin of the first line with this time or a later one. */
    private static long firstFrom(FileChannel channel, long size, long epochNanos) throws IOException {
        long low = 0;
        long high = size;
        while (high - low > PROBE_BYTES) {
            long middle = lineFrom(channel, (low + high) / 2);
            if (middle >= high) {
                break;
            }
            Long time = timeAt(channel, middle);
            if (time == null) {
                return epochNanos < 0 ? 0 : low; // a line that is none; what lies before it is read as well
            }
            if (time < epochNanos) {
                low = middle;
            } else {
                high = middle;
            }
        }
        long at = low;
        while (at < size) {
            Long time = timeAt(channel, at);
            if (time == null || time >= epochNanos) {
                return at;
            }
            at = lineFrom(channel, at + 1);
        }
        return size;
    }

    /** Opens the bytes of the chunk. */
    InputStream open() throws IOException {
        FileChannel channel = openFile(this::located);
        InputStream stream = Channels.newInputStream(channel.position(from));
        return isWhole ? stream : new LimitedStream(stream, to - from);
    }

    /**
     * Opens the file. It can be renamed between the look-up of its name and the opening, and another file can take its
     * name; therefore, the name is looked up again afterwards.
     */
    FileChannel openFile(Located located) throws IOException {
        for (int i = 0; i < MOST_ATTEMPTS; i++) {
            Path path = located.path();
            FileChannel channel;
            try {
                channel = FileChannel.open(path, StandardOpenOption.READ);
            } catch (NoSuchFileException e) {
                continue;
            }
            if (identity == null || identity.equals(identity(path))) {
                return channel;
            }
            channel.close();
        }
        throw new IOException(ROTATED);
    }

    /** Returns where the file is now. */
    @FunctionalInterface
    interface Located {
        Path path() throws IOException;
    }

    /** Returns where the file is now: it may be renamed while it is read, and another one may have its name. */
    Path located() throws IOException {
        if (identity == null || identity.equals(identity(file))) {
            return file;
        }
        try (Stream<Path> files = Files.list(file.toAbsolutePath().getParent())) {
            for (Path each : (Iterable<Path>) files::iterator) {
                if (identity.equals(identity(each))) {
                    return each;
                }
            }
        }
        throw new IOException(ROTATED);
    }

    private static Object identity(Path file) throws IOException {
        try {
            return Files.readAttributes(file, BasicFileAttributes.class).fileKey();
        } catch (NoSuchFileException e) {
            return null;
        }
    }

    /** Returns the number of lines before the chunk. */
    long linesBefore() throws IOException {
        if (from == 0) {
            return 0;
        }
        long lines = 0;
        long left = from;
        byte[] bytes = new byte[1 << 16];
        try (InputStream stream = Channels.newInputStream(openFile(this::located))) {
            int count;
            while (left > 0 && (count = stream.read(bytes, 0, (int) Math.min(bytes.length, left))) > 0) {
                left -= count;
                for (int i = 0; i < count; i++) {
                    lines += bytes[i] == '\n' ? 1 : 0;
                }
            }
        }
        return lines;
    }
}
