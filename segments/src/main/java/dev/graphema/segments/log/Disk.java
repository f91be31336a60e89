package dev.graphema.segments.log;

import java.io.IOException;
import java.nio.file.Path;

/** The changes of files that a store makes. Each of them can fail. Thread-safe. */
public interface Disk {
    /** The disk of the machine. */
    Disk REAL = new RealDisk();

    /** Creates a file, which must not exist. */
    NewFile create(Path file) throws IOException;

    /** Renames a file, atomically, and replaces another one of this name; the new name survives a power failure. */
    void rename(Path file, Path to) throws IOException;

    /** Deletes a file if it exists. */
    void delete(Path file) throws IOException;

    /** Makes sure that the names of the files in a folder survive a power failure. */
    void forceNames(Path folder) throws IOException;
}
