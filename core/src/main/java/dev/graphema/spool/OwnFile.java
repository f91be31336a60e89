package dev.graphema.spool;

import static java.nio.file.StandardOpenOption.CREATE;
import static java.nio.file.StandardOpenOption.READ;
import static java.nio.file.StandardOpenOption.WRITE;

import java.io.Closeable;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileAttribute;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Set;

/**
 * A file that this process alone uses, as long as it is open: another process, or another sink of this one, that asks for
 * the same path gets the next free one, with a number behind its name.
 */
final class OwnFile implements Closeable {
    private static final int MOST = 100;

    private final Path path;
    private final FileChannel channel;

    private OwnFile(Path path, FileChannel channel) {
        this.path = path;
        this.channel = channel;
    }

    /** Opens the file or the next free one, and makes its folder; for the owner's eyes only. */
    static OwnFile open(Path path) throws IOException {
        Files.createDirectories(path.toAbsolutePath().getParent());
        for (int number = 1; number <= MOST; number++) {
            Path candidate = number == 1 ? path : Path.of(path + "." + number);
            FileChannel channel = FileChannel.open(candidate, Set.of(CREATE, READ, WRITE), ownersOnly());
            try {
                if (channel.tryLock() != null) {
                    return new OwnFile(candidate, channel);
                }
            } catch (OverlappingFileLockException e) {
                // Another sink of this process has it: the next one, then.
            }
            channel.close();
        }
        throw new IOException(path + " and " + (MOST - 1) + " files beside it are in use by other processes");
    }

    Path path() {
        return path;
    }

    FileChannel channel() {
        return channel;
    }

    /** Gives the file back. */
    @Override
    public void close() throws IOException {
        channel.close();
    }

    static FileAttribute<?>[] ownersOnly() {
        boolean posix = FileSystems.getDefault().supportedFileAttributeViews().contains("posix");
        return posix
                ? new FileAttribute<?>[] {
                    PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------"))
                }
                : new FileAttribute<?>[0];
    }
}
