package dev.graphema.sink;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.channels.Channels;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Set;
import java.util.concurrent.locks.LockSupport;
import java.util.function.BooleanSupplier;
import java.util.zip.GZIPOutputStream;

/**
 * Compresses archived files and deletes surplus ones. Only accesses files of the sink. Runs on a background thread, one
 * task at a time.
 */
final class OldFiles {
    /** Takes half the time of the default level, for a tenth more bytes. */
    private static final int QUICKLY = 3;

    private static final int PIECE = 256 * 1024;

    /**
     * After each chunk, it pauses for this multiple of the time that it took, to leave the processors to the program.
     */
    private static final int REST = 3;

    private final FileNames names;
    private final FileOptions options;

    /** The form of archived files; null for gzip. */
    private final ArchiveForm form;

    private final InstantSource clock;
    private final BooleanSupplier hurried;

    /**
     * @param form the form of archived files; null for gzip
     * @param hurried whether the process is ending, so that there is no time for pauses
     */
    OldFiles(FileNames names, FileOptions options, ArchiveForm form, InstantSource clock, BooleanSupplier hurried) {
        this.form = form;
        this.names = names;
        this.options = options;
        this.clock = clock;
        this.hurried = hurried;
    }

    /** Does all pending work, also that of an earlier process. */
    void tidy() throws IOException {
        deleteSurplus();
        if (options.compress() != FileOptions.Compress.NO) {
            for (Path file : names.putAside(clock)) {
                if (!names.isCompressed(file) && Files.exists(file)) {
                    compress(file);
                    deleteSurplus(); // more may have come meanwhile
                }
            }
        }
    }

    /** The compressed file gets its name when it is complete, and then the original is deleted. */
    private void compress(Path file) throws IOException {
        String extension = form == null ? FileNames.GZIP : form.extension();
        Path unfinished = Path.of(file + extension + FileNames.UNFINISHED);
        Files.deleteIfExists(unfinished); // of a process that ended while it compressed, perhaps with other permissions
        if (form == null) {
            zip(file, unfinished);
        } else {
            created(unfinished).close(); // with its permissions
            form.write(file, unfinished, new Pauses());
        }
        Files.setLastModifiedTime(unfinished, Files.getLastModifiedTime(file));
        Files.move(unfinished, Path.of(file + extension), StandardCopyOption.ATOMIC_MOVE);
        Files.delete(file);
    }

    private void zip(Path file, Path unfinished) throws IOException {
        Pauses pauses = new Pauses();
        try (InputStream from = Files.newInputStream(file);
                OutputStream to = new QuickGzip(created(unfinished))) {
            byte[] piece = new byte[PIECE];
            int count;
            while ((count = from.read(piece)) > 0) {
                to.write(piece, 0, count);
                pauses.run();
            }
        }
    }

    /** Pauses in proportion to the time since the last pause. */
    private final class Pauses implements Runnable {
        private long workingSince = System.nanoTime();

        @Override
        public void run() {
            if (!hurried.getAsBoolean()) {
                LockSupport.parkNanos((System.nanoTime() - workingSince) * REST);
            }
            workingSince = System.nanoTime();
        }
    }

    private OutputStream created(Path path) throws IOException {
        return Channels.newOutputStream(Files.newByteChannel(
                path,
                Set.of(StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE),
                WrittenFile.attributes(options.permissions())));
    }

    private static final class QuickGzip extends GZIPOutputStream {
        QuickGzip(OutputStream to) throws IOException {
            super(to, 64 * 1024);
            def.setLevel(QUICKLY);
        }
    }

    private void deleteSurplus() throws IOException {
        List<Path> newestFirst = new ArrayList<>(names.putAside(clock));
        Instant oldest = clock.instant().minus(options.keepAge());
        Collections.reverse(newestFirst);
        long total = 0;
        int count = 0;
        for (Path file : newestFirst) {
            if (!Files.exists(file)) {
                continue; // somebody else has deleted it just now
            }
            total += Files.size(file);
            count++;
            boolean tooOld = Files.getLastModifiedTime(file).toInstant().isBefore(oldest);
            if (total > options.keepTotal() || count > options.keepCount() || tooOld) {
                Files.delete(file);
            }
        }
    }
}
