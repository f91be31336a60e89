package dev.graphema.segments.store;

import dev.graphema.segments.log.Disk;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;

/**
 * Copies a store to another folder, also while it is written: all events that were durable when the copy began are in it. The copy is a
 * store, too. If it is repeated, only what is new is copied, since segments never change.
 */
public final class StoreBackup {
    private static final int ATTEMPTS = 5;
    private static final String UNFINISHED = ".unfinished";
    private static final List<String> NOT_COPIED = List.of(Store.LOCK, ManifestFile.NAME, UNFINISHED, ".new", ".lock");

    private final Path from;
    private final Path to;
    private final Disk disk = Disk.REAL;
    private int files;
    private long bytes;

    private StoreBackup(Path from, Path to) {
        this.from = from;
        this.to = to;
    }

    /**
     * What was copied.
     *
     * @param files the number of files
     * @param bytes their size
     */
    public record Copied(int files, long bytes) {}

    /**
     * Copies a store, and the stores in folders of its folder.
     *
     * @param from the folder of a store
     * @param to the folder of the copy, which is created; nobody may write it meanwhile
     * @throws IOException if that failed; an older copy there is still complete
     */
    public static Copied copy(Path from, Path to) throws IOException {
        StoreBackup backup = new StoreBackup(from, to);
        backup.copyStore();
        int files = backup.files;
        long bytes = backup.bytes;
        try (Stream<Path> below = Files.list(from)) {
            for (Path each : below.filter(StoreSource::isStore).toList()) {
                Copied inner = copy(each, to.resolve(each.getFileName()));
                files += inner.files();
                bytes += inner.bytes();
            }
        }
        return new Copied(files, bytes);
    }

    private void copyStore() throws IOException {
        Files.createDirectories(to);
        for (int attempt = 1; ; attempt++) {
            try {
                copyOnce();
                return;
            } catch (NoSuchFileException e) {
                if (attempt == ATTEMPTS) {
                    throw new IOException("the store changes faster than it can be copied: " + e.getMessage(), e);
                }
                // it was replaced a while ago; the manifest of now names others
            }
        }
    }

    private void copyOnce() throws IOException {
        Set<String> kept = new HashSet<>();
        try (Stream<Path> all = Files.list(from)) {
            for (Path each : all.filter(Files::isRegularFile).toList()) {
                String name = each.getFileName().toString();
                boolean isOfStore = name.endsWith(".gseg") || name.endsWith(".glog");
                if (!isOfStore && NOT_COPIED.stream().noneMatch(name::endsWith)) {
                    copy(name);
                }
            }
        }
        Manifest manifest = ManifestFile.read(from);
        for (Manifest.Entry each : manifest.segments()) {
            kept.add(each.file());
            if (!isThere(each.file())) {
                copy(each.file());
            }
        }
        StoreFolder folder = new StoreFolder(from);
        for (long each : folder.logsFrom(manifest.firstLog())) {
            String name = folder.log(each).getFileName().toString();
            kept.add(name);
            copy(name); // it may have grown; what is incomplete at its end is left out when it is read
        }
        disk.forceNames(to);
        ManifestFile.write(to, manifest.without(manifest.replaced()), disk);
        if (!Files.exists(to.resolve(Store.LOCK))) {
            Files.createFile(to.resolve(Store.LOCK));
        }
        for (Path each : new StoreFolder(to).files()) {
            if (!kept.contains(each.getFileName().toString())) {
                Files.delete(each); // of an older copy
            }
        }
    }

    private boolean isThere(String name) throws IOException {
        Path copy = to.resolve(name);
        return Files.exists(copy) && Files.size(copy) == Files.size(from.resolve(name));
    }

    private void copy(String name) throws IOException {
        Path unfinished = to.resolve(name + UNFINISHED);
        Files.copy(
                from.resolve(name),
                unfinished,
                StandardCopyOption.REPLACE_EXISTING,
                StandardCopyOption.COPY_ATTRIBUTES);
        try (FileChannel written = FileChannel.open(unfinished, StandardOpenOption.WRITE)) {
            written.force(true);
        }
        Files.move(unfinished, to.resolve(name), StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
        files++;
        bytes += Files.size(to.resolve(name));
    }
}
