package dev.graphema.sink;

import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Duration;
import java.time.ZoneId;
import java.util.Locale;
import java.util.Objects;

/**
 * Where a {@link FileSink} writes and how its files are bounded; made by a {@link Builder}, whose methods tell what each is.
 *
 * <p>Without a word about it, a file is put aside at 50 MiB, old files are compressed, and the oldest are deleted when all of
 * them take more than 1 GiB: a disk is never filled by default.
 */
public record FileOptions(
        Path path,
        long rotateAt,
        Every rotateEvery,
        long keepTotal,
        int keepCount,
        Duration keepAge,
        boolean compress,
        boolean sync,
        String permissions,
        ZoneId zone) {
    /** When a file is put aside by the clock. */
    public enum Every {
        NEVER,
        HOUR,
        DAY;

        /** The name in settings. */
        public String text() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    public FileOptions {
        Objects.requireNonNull(path, "path");
        Objects.requireNonNull(rotateEvery, "rotateEvery");
        atLeast(1024, rotateAt, "rotate.at");
        atLeast(1, keepTotal, "keep.total");
        atLeast(1, keepCount, "keep.count");
        positive(keepAge);
        wellFormed(permissions);
    }

    /** The zone in which days begin: the system's when none was given, which is looked up only where a day matters. */
    @Override
    public ZoneId zone() {
        return zone == null ? ZoneId.systemDefault() : zone;
    }

    /** @param path the file; {@code {date}} in its name stands for the day on which an event is written */
    public static Builder builder(Path path) {
        return new Builder(path);
    }

    private static long atLeast(long least, long value, String name) {
        if (value < least) {
            throw new IllegalArgumentException(name + ": " + value + " (expected: " + least + " or more)");
        }
        return value;
    }

    private static Duration positive(Duration age) {
        if (age.isNegative() || age.isZero()) {
            throw new IllegalArgumentException("keep.days: " + age + " (expected: more than nothing)");
        }
        return age;
    }

    static String wellFormed(String permissions) {
        try {
            PosixFilePermissions.fromString(permissions);
        } catch (IllegalArgumentException e) {
            throw new IllegalArgumentException(
                    "permissions: \"" + permissions + "\" (expected: nine letters such as rw-r-----)");
        }
        return permissions;
    }

    /** Gathers the options; each method refuses a bad value at once. */
    public static final class Builder {
        private static final long MEBIBYTE = 1024 * 1024;

        private final Path path;
        private long rotateAt = 50 * MEBIBYTE;
        private Every rotateEvery = Every.NEVER;
        private long keepTotal = 1024 * MEBIBYTE;
        private int keepCount = Integer.MAX_VALUE;
        private Duration keepAge = Duration.ofDays(36_500);
        private boolean compress = true;
        private boolean sync;
        private String permissions = "rw-r-----";
        private ZoneId zone;

        private Builder(Path path) {
            this.path = Objects.requireNonNull(path, "path");
        }

        /** Puts the file aside before it has more bytes than that. 50 MiB by default. */
        public Builder rotateAt(long bytes) {
            rotateAt = atLeast(1024, bytes, "rotate.at");
            return this;
        }

        /** Puts the file aside when an hour or a day begins, in the zone. Never by default. */
        public Builder rotateEvery(Every every) {
            rotateEvery = Objects.requireNonNull(every, "every");
            return this;
        }

        /** Deletes the oldest files when those put aside have more bytes together. 1 GiB by default. */
        public Builder keepTotal(long bytes) {
            keepTotal = atLeast(1, bytes, "keep.total");
            return this;
        }

        /** Deletes the oldest files when more than so many are put aside. Any number by default. */
        public Builder keepCount(int files) {
            keepCount = (int) atLeast(1, files, "keep.count");
            return this;
        }

        /** Deletes files that were put aside longer ago. A hundred years by default. */
        public Builder keepAge(Duration age) {
            keepAge = positive(age);
            return this;
        }

        /** Whether files that were put aside are compressed (gzip), on a thread of its own. True by default. */
        public Builder compress(boolean compress) {
            this.compress = compress;
            return this;
        }

        /** Whether each batch is forced to the disk before the next one is taken. False by default. */
        public Builder sync(boolean sync) {
            this.sync = sync;
            return this;
        }

        /** Who may read and write, where the file system knows: {@code rw-r-----} by default. */
        public Builder permissions(String permissions) {
            this.permissions = wellFormed(permissions);
            return this;
        }

        /** In which hours and days begin. The system's by default. */
        public Builder zone(ZoneId zone) {
            this.zone = Objects.requireNonNull(zone, "zone");
            return this;
        }

        public FileOptions build() {
            return new FileOptions(
                    path, rotateAt, rotateEvery, keepTotal, keepCount, keepAge, compress, sync, permissions, zone);
        }
    }
}
