package dev.graphema.segments.log;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileAttribute;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Set;

/** The disk of the machine. */
final class RealDisk implements Disk {
    @Override
    public NewFile create(Path file) throws IOException {
        Set<StandardOpenOption> options = Set.of(StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
        return new RealFile(FileChannel.open(file, options, permissions(file)));
    }

    /** Events are not for everybody. */
    private static FileAttribute<?>[] permissions(Path file) {
        boolean areSupported =
                file.getFileSystem().supportedFileAttributeViews().contains("posix");
        return areSupported
                ? new FileAttribute<?>[] {
                    PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-r-----"))
                }
                : new FileAttribute<?>[0];
    }

    @Override
    public void rename(Path file, Path to) throws IOException {
        Files.move(file, to, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
        forceNames(to.getParent());
    }

    @Override
    public void delete(Path file) throws IOException {
        Files.deleteIfExists(file);
    }

    @Override
    public void forceNames(Path folder) throws IOException {
        FileChannel names;
        try {
            names = FileChannel.open(folder, StandardOpenOption.READ);
        } catch (IOException e) {
            if (System.getProperty("os.name").startsWith("Windows")) {
                return; // folders cannot be opened there, and need not be
            }
            throw e;
        }
        try (names) {
            names.force(true);
        }
    }

    private record RealFile(FileChannel channel) implements NewFile {
        @Override
        public int write(ByteBuffer bytes) throws IOException {
            int count = bytes.remaining();
            while (bytes.hasRemaining()) {
                channel.write(bytes);
            }
            return count;
        }

        @Override
        public void force() throws IOException {
            channel.force(false);
        }

        @Override
        public void truncate(long length) throws IOException {
            channel.truncate(length);
            channel.position(length);
        }

        @Override
        public boolean isOpen() {
            return channel.isOpen();
        }

        @Override
        public void close() throws IOException {
            channel.close();
        }
    }
}
