package dev.graphema.sink;

import dev.graphema.option.Named;
import java.io.IOException;
import java.nio.file.Path;

/**
 * A form for archived files that another module provides, found as a service ({@link java.util.ServiceLoader}). Called by one
 * background thread at a time.
 */
public interface ArchiveForm extends Named {
    /** Returns the end of the names of its files, such as {@code .gseg}. */
    String extension();

    /**
     * Writes the lines of a file in this form. The archive has its name when it is complete.
     *
     * @param log a file of lines, which does not change
     * @param archive the file to write
     * @param pause is called now and then, and pauses to leave the processors to the program
     * @throws IOException if that failed; then there is no archive
     */
    void write(Path log, Path archive, Runnable pause) throws IOException;
}
