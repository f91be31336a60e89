package dev.graphema.segments.store;

import dev.graphema.segments.log.Disk;
import dev.graphema.segments.log.NewFile;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.Stream;

/**
 * A disk that fails at random, and forgets at a power failure what was not forced: of a file, any part of what was written since
 * then, which may leave zeros; of the names in the folder, the last changes.
 */
final class FaultyDisk implements Disk {
    private final Random random;
    private int faultsPerThousand;
    private boolean isGone;
    private int faults;

    /** What survives: the contents by file, and the files by name. */
    private final Map<Content, byte[]> forced = new HashMap<>();

    private final Map<Path, Content> forcedNames = new HashMap<>();
    private final Map<Path, Content> names = new HashMap<>();

    /** The changes of names since they were forced. */
    private final List<Runnable> changes = new ArrayList<>();

    /** The identity of a file, independent of its name. */
    private static final class Content {}

    FaultyDisk(long seed) {
        this.random = new Random(seed);
    }

    synchronized void faults(int perThousand) {
        faultsPerThousand = perThousand;
    }

    synchronized int faults() {
        return faults;
    }

    private void mayFail(String what) throws IOException {
        if (isGone) {
            throw new IOException("the power is off");
        }
        if (random.nextInt(1000) < faultsPerThousand) {
            faults++;
            throw new IOException("simulated: " + what);
        }
    }

    @Override
    public synchronized NewFile create(Path file) throws IOException {
        mayFail("no file can be created");
        Disk.REAL.create(file).close();
        Content content = new Content();
        forced.put(content, new byte[0]);
        name(file, content);
        return new FaultyFile(file, content);
    }

    private void name(Path file, Content content) {
        names.put(file, content);
        changes.add(() -> forcedNames.put(file, content));
    }

    @Override
    public synchronized void rename(Path file, Path to) throws IOException {
        mayFail("the file cannot be renamed");
        Disk.REAL.rename(file, to);
        Content content = names.remove(file);
        names.put(to, content);
        changes.add(() -> {
            forcedNames.remove(file);
            forcedNames.put(to, content);
        });
        forceNames(to.getParent());
    }

    @Override
    public synchronized void delete(Path file) throws IOException {
        mayFail("the file cannot be deleted");
        Disk.REAL.delete(file);
        names.remove(file);
        changes.add(() -> forcedNames.remove(file));
    }

    @Override
    public synchronized void forceNames(Path folder) throws IOException {
        mayFail("the names cannot be forced");
        changes.forEach(Runnable::run);
        changes.clear();
    }

    /** Ends the writing of everybody who has this disk. */
    synchronized void powerOff() {
        isGone = true;
    }

    /** Leaves in the folder what survived. */
    synchronized void powerOn(Path folder) throws IOException {
        isGone = false;
        int kept = random.nextInt(changes.size() + 1);
        changes.subList(0, kept).forEach(Runnable::run);
        changes.clear();
        Map<Content, byte[]> survived = new HashMap<>();
        for (Map.Entry<Path, Content> each : names.entrySet()) {
            survived.put(each.getValue(), survived(each.getKey(), each.getValue()));
        }
        try (Stream<Path> files = Files.list(folder)) {
            for (Path file : files.filter(names::containsKey).toList()) {
                Files.delete(file);
            }
        }
        names.clear();
        for (Map.Entry<Path, Content> each : forcedNames.entrySet()) {
            // A deleted file whose deletion did not survive has what was forced.
            byte[] bytes = survived.getOrDefault(each.getValue(), forced.get(each.getValue()));
            Files.write(each.getKey(), bytes);
            forced.put(each.getValue(), bytes);
            names.put(each.getKey(), each.getValue());
        }
    }

    private byte[] survived(Path file, Content content) throws IOException {
        byte[] written = Files.readAllBytes(file);
        byte[] safe = forced.get(content);
        if (written.length <= safe.length || !Arrays.equals(safe, Arrays.copyOf(written, safe.length))) {
            return random.nextBoolean() ? written : safe; // it was cut back
        }
        int length = safe.length + random.nextInt(written.length - safe.length + 1);
        byte[] survived = Arrays.copyOf(written, length);
        return random.nextInt(3) == 0 ? Arrays.copyOf(survived, written.length) : survived;
    }

    private final class FaultyFile implements NewFile {
        private final NewFile file;
        private final Path path;
        private final Content content;

        FaultyFile(Path path, Content content) throws IOException {
            this.path = path;
            this.content = content;
            Files.delete(path);
            this.file = Disk.REAL.create(path);
        }

        @Override
        public int write(ByteBuffer bytes) throws IOException {
            synchronized (FaultyDisk.this) {
                try {
                    mayFail("the disk is full");
                } catch (IOException e) {
                    if (!isGone) {
                        ByteBuffer part = bytes.duplicate();
                        file.write(part.limit(part.position() + random.nextInt(part.remaining() + 1)));
                    }
                    throw e;
                }
                return file.write(bytes);
            }
        }

        @Override
        public void force() throws IOException {
            synchronized (FaultyDisk.this) {
                mayFail("the file cannot be forced");
                forced.put(content, Files.readAllBytes(currentPath()));
            }
        }

        private Path currentPath() {
            return names.entrySet().stream()
                    .filter(each -> each.getValue() == content)
                    .map(Map.Entry::getKey)
                    .findFirst()
                    .orElse(path);
        }

        @Override
        public void truncate(long length) throws IOException {
            synchronized (FaultyDisk.this) {
                mayFail("the file cannot be cut back");
                file.truncate(length);
            }
        }

        @Override
        public boolean isOpen() {
            return file.isOpen();
        }

        @Override
        public void close() throws IOException {
            file.close();
        }
    }
}
