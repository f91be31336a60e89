package dev.graphema.sink;

import static java.nio.file.StandardOpenOption.CREATE;
import static java.nio.file.StandardOpenOption.READ;
import static java.nio.file.StandardOpenOption.WRITE;

import dev.graphema.spool.Claims;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.NotDirectoryException;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.nio.file.attribute.FileAttribute;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Stream;

/** A file to which one sink appends, and which no other sink, or process that locks its files, uses. For one thread. */
final class WrittenFile implements Closeable {
    private final Path path;
    private final FileChannel channel;
    private final Object identity;
    private long size;
    private boolean hasName = true;

    private WrittenFile(Path path, FileChannel channel, Object identity, long size) {
        this.path = path;
        this.channel = channel;
        this.identity = identity;
        this.size = size;
    }

    /**
     * Opens or creates a file and its folder.
     *
     * @param endsLastLine whether an incomplete last line of a killed process is ended first
     * @return null if another sink or process uses the file
     */
    static WrittenFile open(Path path, String permissions, boolean endsLastLine) throws IOException {
        if (!Claims.claim(path)) {
            return null;
        }
        FileChannel channel = null;
        try {
            Files.createDirectories(path.toAbsolutePath().getParent());
            channel = FileChannel.open(path, Set.of(CREATE, READ, WRITE), attributes(permissions));
            if (channel.tryLock() != null) {
                long size = end(channel, endsLastLine);
                return new WrittenFile(path, channel, identity(path), size);
            }
        } catch (IOException | RuntimeException e) {
            close(path, channel);
            throw e;
        }
        close(path, channel);
        return null;
    }

    private static void close(Path path, FileChannel channel) throws IOException {
        try {
            if (channel != null) {
                channel.close();
            }
        } finally {
            Claims.release(path);
        }
    }

    /** Returns the attributes of a new file with these permissions, if the file system supports them. */
    static FileAttribute<?>[] attributes(String permissions) {
        boolean posix = FileSystems.getDefault().supportedFileAttributeViews().contains("posix");
        return posix
                ? new FileAttribute<?>[] {
                    PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString(permissions))
                }
                : new FileAttribute<?>[0];
    }

    /**
     * Moves to the end of the file.
     *
     * @return the position
     */
    private static long end(FileChannel channel, boolean endsLastLine) throws IOException {
        long end = channel.size();
        channel.position(end);
        ByteBuffer last = ByteBuffer.allocate(1);
        if (endsLastLine && end > 0 && channel.read(last, end - 1) == 1 && last.get(0) != '\n') {
            channel.write(ByteBuffer.wrap(new byte[] {'\n'}));
            return end + 1;
        }
        return end;
    }

    /** Returns the identity of the file; null if the file system does not provide it. */
    private static Object identity(Path path) throws IOException {
        return Files.readAttributes(path, BasicFileAttributes.class).fileKey();
    }

    Path path() {
        return path;
    }

    long size() {
        return size;
    }

    boolean isOpen() {
        return channel.isOpen();
    }

    /** Appends bytes; after a failure, the buffer's position shows how many were written. */
    void write(ByteBuffer bytes) throws IOException {
        int from = bytes.position();
        try {
            while (bytes.hasRemaining()) {
                channel.write(bytes);
            }
        } finally {
            size += bytes.position() - from;
        }
    }

    void force() throws IOException {
        channel.force(false);
    }

    /** Returns whether the file still exists under its name. */
    boolean isInPlace() throws IOException {
        try {
            return Objects.equals(identity(path), identity);
        } catch (NoSuchFileException e) {
            return false;
        }
    }

    /** Returns whether the file has another name in its folder. */
    boolean isRenamed() throws IOException {
        try (Stream<Path> files = Files.list(path.toAbsolutePath().getParent())) {
            for (Path file : (Iterable<Path>) files::iterator) {
                if (identity != null && identity.equals(identity(file))) {
                    return true;
                }
            }
            return false;
        } catch (NoSuchFileException | NotDirectoryException e) {
            return false; // the folder is gone, too
        }
    }

    /** Appends the bytes from a position on to another file, also after this file was removed. */
    void copyTo(WrittenFile other, long from) throws IOException {
        ByteBuffer piece = ByteBuffer.allocate(64 * 1024);
        for (long at = from; at < size; ) {
            int count = channel.read(piece.clear(), at);
            if (count <= 0) {
                return; // it was also truncated
            }
            at += count;
            other.write(piece.flip());
        }
    }

    /** Releases the name for another file. */
    void giveUpName() {
        hasName = false;
        Claims.release(path);
    }

    /** Closes the file and releases its lock. */
    @Override
    public void close() throws IOException {
        try {
            channel.close();
        } finally {
            if (hasName) {
                giveUpName();
            }
        }
    }
}
