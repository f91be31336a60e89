package dev.graphema.segments.file;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.channels.WritableByteChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;

/**
 * A new file under a temporary name. It gets its name when it is complete and on the disk, so a reader never sees a part of it.
 * For one thread.
 */
public final class UnfinishedFile implements WritableByteChannel {
    private final Path file;
    private final Path unfinished;
    private final FileChannel channel;
    private boolean isFinished;

    /** @param file the name of the complete file */
    public UnfinishedFile(Path file) throws IOException {
        this.file = file;
        this.unfinished = file.resolveSibling(file.getFileName() + ".unfinished");
        this.channel = FileChannel.open(
                unfinished, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING, StandardOpenOption.WRITE);
    }

    @Override
    public int write(ByteBuffer bytes) throws IOException {
        return channel.write(bytes);
    }

    /** Publishes the file. */
    public void finish() throws IOException {
        channel.force(true);
        channel.close();
        Files.move(unfinished, file, StandardCopyOption.ATOMIC_MOVE);
        isFinished = true;
    }

    @Override
    public boolean isOpen() {
        return channel.isOpen();
    }

    /** Removes the file if it was not finished. */
    @Override
    public void close() throws IOException {
        channel.close();
        if (!isFinished) {
            Files.deleteIfExists(unfinished);
        }
    }
}
