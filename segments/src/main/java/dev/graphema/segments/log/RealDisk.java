package dev.graphema.segments.log;

import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileAttribute;
import java.nio.file.attribute.PosixFilePermissions;

/** The disk of the machine. */
final class RealDisk implements Disk {
    @Override
    public NewFile create(Path file) throws IOException {
        Files.createFile(file, permissions(file));
        return new RealFile(new RandomAccessFile(file.toFile(), "rw"));
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

    /** Not a channel of the JDK: that would be closed when a thread that appends is interrupted. */
    private static final class RealFile implements NewFile {
        private final RandomAccessFile file;
        private boolean isOpen = true;

        RealFile(RandomAccessFile file) {
            this.file = file;
        }

        @Override
        public int write(ByteBuffer bytes) throws IOException {
            int count = bytes.remaining();
            file.write(bytes.array(), bytes.arrayOffset() + bytes.position(), count);
            bytes.position(bytes.limit());
            return count;
        }

        @Override
        public void force() throws IOException {
            file.getFD().sync();
        }

        @Override
        public void truncate(long length) throws IOException {
            file.setLength(length);
            file.seek(length);
        }

        @Override
        public boolean isOpen() {
            return isOpen;
        }

        @Override
        public void close() throws IOException {
            isOpen = false;
            file.close();
        }
    }
}
