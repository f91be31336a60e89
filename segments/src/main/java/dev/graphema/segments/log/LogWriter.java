package dev.graphema.segments.log;

import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Path;

/** Writes a new log. A batch is in it completely or not at all. For one thread. */
public final class LogWriter implements Closeable {
    private final Path path;
    private final NewFile file;
    private long size;
    private boolean isBroken;

    /**
     * Creates a log, whose name survives a power failure.
     *
     * @param path the file, which must not exist
     */
    public LogWriter(Path path, Disk disk) throws IOException {
        this.path = path;
        this.file = disk.create(path);
        try {
            ByteBuffer header = LogForm.buffer(LogForm.HEADER);
            file.write(header.putInt(LogForm.MAGIC).putInt(LogForm.VERSION).flip());
            file.force();
            disk.forceNames(path.getParent());
        } catch (IOException e) {
            file.close();
            throw e;
        }
        this.size = LogForm.HEADER;
    }

    /**
     * Adds a batch, and returns when it survives a power failure.
     *
     * @throws IOException if that failed; then the batch may be in the log until it was {@linkplain #cutBack cut back}
     */
    public void add(LogBatch lines) throws IOException {
        ByteBuffer batch = lines.withHeader();
        int whole = batch.remaining();
        try {
            file.write(batch);
            file.force();
        } catch (IOException e) {
            isBroken = true;
            throw e;
        }
        size += whole;
    }

    /**
     * Removes what a failed batch may have left. Nothing can be added afterwards, since it is not known what the disk has after a
     * failed sync.
     */
    public void cutBack() throws IOException {
        file.truncate(size);
        file.force();
    }

    /** Returns whether a batch failed, so that no other one can be added. */
    public boolean isBroken() {
        return isBroken;
    }

    /** Returns the file. */
    public Path path() {
        return path;
    }

    /** Returns the bytes of the complete batches. */
    public long size() {
        return size;
    }

    @Override
    public void close() throws IOException {
        file.close();
    }
}
