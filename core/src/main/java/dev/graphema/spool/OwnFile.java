package dev.graphema.spool;

import static java.nio.file.StandardOpenOption.CREATE;
import static java.nio.file.StandardOpenOption.READ;
import static java.nio.file.StandardOpenOption.WRITE;

import java.io.Closeable;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.OpenOption;
import java.nio.file.Path;
import java.nio.file.attribute.FileAttribute;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/**
 * A file that only this process uses while it is open. Another process, or another sink of this process, that opens the
 * same path gets the next free one, with a number after its name.
 */
final class OwnFile implements Closeable {
    private static final int MOST = 100;

    private final Path path;
    private final FileChannel channel;

    private OwnFile(Path path, FileChannel channel) {
        this.path = path;
        this.channel = channel;
    }

    /** Opens the file or the next free one, and creates its folder, with access for the owner only. */
    static OwnFile open(Path path) throws IOException {
        Files.createDirectories(path.toAbsolutePath().getParent());
        for (int number = 1; number <= MOST; number++) {
            Path candidate = number == 1 ? path : Path.of(path + "." + number);
            OwnFile own = tryOpen(candidate, Set.of(CREATE, READ, WRITE));
            if (own != null) {
                return own;
            }
        }
        throw new IOException(path + " and " + (MOST - 1) + " files beside it are in use by other processes");
    }

    /** Opens the existing numbered files of the path that nobody uses. */
    static List<OwnFile> leftBehind(Path path) throws IOException {
        List<OwnFile> found = new ArrayList<>();
        for (int number = 1; number <= MOST; number++) {
            Path candidate = number == 1 ? path : Path.of(path + "." + number);
            OwnFile own = Files.exists(candidate) ? tryOpen(candidate, Set.of(READ, WRITE)) : null;
            if (own != null) {
                found.add(own);
            }
        }
        return found;
    }

    /** Null if the file is in use. */
    private static OwnFile tryOpen(Path path, Set<OpenOption> options) throws IOException {
        if (!Claims.claim(path)) {
            return null;
        }
        FileChannel channel = null;
        try {
            channel = FileChannel.open(path, options, ownersOnly());
            if (channel.tryLock() != null) {
                return new OwnFile(path, channel);
            }
            channel.close();
            Claims.release(path);
            return null;
        } catch (IOException e) {
            if (channel != null) {
                channel.close();
            }
            Claims.release(path);
            throw e;
        }
    }

    Path path() {
        return path;
    }

    FileChannel channel() {
        return channel;
    }

    /** Releases the file. */
    @Override
    public void close() throws IOException {
        channel.close();
        Claims.release(path);
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
