package dev.graphema.segments.store;

import dev.graphema.segments.log.Disk;
import dev.graphema.segments.log.NewFile;
import java.io.IOException;
import java.nio.file.Path;

/**
 * A disk that reports what is done before it is done.
 *
 * @param disk does it
 * @param called is called with {@code create}, {@code rename} or {@code delete}, and the file
 */
record CalledDisk(Disk disk, Called called) implements Disk {
    interface Called {
        void call(String what, Path file) throws IOException;
    }

    @Override
    public NewFile create(Path file) throws IOException {
        called.call("create", file);
        return disk.create(file);
    }

    @Override
    public void rename(Path file, Path to) throws IOException {
        called.call("rename", file);
        disk.rename(file, to);
    }

    @Override
    public void delete(Path file) throws IOException {
        called.call("delete", file);
        disk.delete(file);
    }

    @Override
    public void forceNames(Path folder) throws IOException {
        disk.forceNames(folder);
    }
}
