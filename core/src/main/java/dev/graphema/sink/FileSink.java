package dev.graphema.sink;

import static java.nio.file.StandardOpenOption.CREATE;
import static java.nio.file.StandardOpenOption.READ;
import static java.nio.file.StandardOpenOption.WRITE;

import dev.graphema.event.Event;
import dev.graphema.format.Format;
import dev.graphema.format.Utf8Buffer;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Objects;

/**
 * Appends to a file, which it makes with its folders when they are missing. A batch is gathered in memory
 * and written at once.
 *
 * <p>When a write fails, as on a full disk, what was not written is kept and tried again with the next one, up to 4 MiB;
 * beyond that further events are refused with the error.
 */
public final class FileSink implements Sink {
    private static final int USUAL_BATCH = 96 * 1024;
    private static final int MOST_KEPT = 4 * 1024 * 1024;

    private final Path path;
    private final Format format;
    private final FileChannel channel;
    private final Utf8Buffer buffer = new Utf8Buffer(USUAL_BATCH);

    private FileSink(Path path, Format format, FileChannel channel) {
        this.path = path;
        this.format = format;
        this.channel = channel;
    }

    /**
     * Opens the file for appending. A last line without an end, which a killed process may leave, is ended first, so that
     * it cannot swallow the next one.
     *
     * @throws IOException when the file or its folders cannot be made or written
     */
    public static FileSink open(Path path, Format format) throws IOException {
        Objects.requireNonNull(format, "format");
        Path folder = path.toAbsolutePath().getParent();
        if (folder != null) {
            Files.createDirectories(folder);
        }
        FileChannel channel = FileChannel.open(path, CREATE, READ, WRITE);
        try {
            FileSink sink = new FileSink(path, format, channel);
            sink.endLastLine();
            return sink;
        } catch (IOException | RuntimeException e) {
            channel.close();
            throw e;
        }
    }

    @Override
    public void write(Event event) throws IOException {
        if (buffer.length() >= MOST_KEPT) {
            flush();
        }
        format.write(event, buffer);
    }

    @Override
    public void flush() throws IOException {
        ByteBuffer bytes = buffer.view();
        try {
            while (bytes.hasRemaining()) {
                channel.write(bytes);
            }
        } finally {
            buffer.dropFirst(bytes.position());
        }
    }

    @Override
    public void close() throws IOException {
        channel.close();
    }

    @Override
    public String toString() {
        return "file " + path;
    }

    private void endLastLine() throws IOException {
        long size = channel.size();
        channel.position(size);
        ByteBuffer last = ByteBuffer.allocate(1);
        if (size > 0 && channel.read(last, size - 1) == 1 && last.get(0) != '\n') {
            channel.write(ByteBuffer.wrap(new byte[] {'\n'}));
        }
    }
}
