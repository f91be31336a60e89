package dev.graphema.sink;

import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Duration;
import java.time.ZoneId;
import java.util.Locale;
import java.util.Objects;

/**
 * The options of a {@link FileSink}; see the methods of {@link Builder}.
 *
 * <p>By default, a file is archived at 50 MiB, archived files are compressed, and the oldest are deleted when they
 * exceed 1 GiB in total, so that a disk is never filled.
 */
public record FileOptions(
        Path path,
        long rotateAt,
        Every rotateEvery,
        long keepTotal,
        int keepCount,
        Duration keepAge,
        Compress compress,
        boolean sync,
        String permissions,
        ZoneId zone) {
    /** When a file is archived by the clock. */
    public enum Every {
        NEVER,
        HOUR,
        DAY;

        /** Returns the name in the settings. */
        public String text() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /** Whether and how archived files are compressed. */
    public enum Compress {
        /** With gzip (RFC 1952). */
        GZIP("true"),
        /** As a segment, which questions read faster; requires the module {@code graphema-segments}. */
        SEGMENT("segment"),
        /** Not at all. */
        NO("false");

        private final String text;

        Compress(String text) {
            this.text = text;
        }

        /** Returns the word in the settings. */
        public String text() {
            return text;
        }
    }

    public FileOptions {
        Objects.requireNonNull(path, "path");
        Objects.requireNonNull(rotateEvery, "rotateEvery");
        Objects.requireNonNull(compress, "compress");
        atLeast(1024, rotateAt, "rotate.at");
        atLeast(1, keepTotal, "keep.total");
        atLeast(1, keepCount, "keep.count");
        positive(keepAge);
        wellFormed(permissions);
    }

    /**
     * Returns the time zone of days and hours; the system default, unless it was set, is determined only when needed.
     */
    @Override
    public ZoneId zone() {
        return zone == null ? ZoneId.systemDefault() : zone;
    }

    /** @param path the file; {@code {date}} in its name is replaced by the day */
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

    /** Builds the options; each method rejects an invalid value immediately. */
    public static final class Builder {
        private static final long MEBIBYTE = 1024 * 1024;

        private final Path path;
        private long rotateAt = 50 * MEBIBYTE;
        private Every rotateEvery = Every.NEVER;
        private long keepTotal = 1024 * MEBIBYTE;
        private int keepCount = Integer.MAX_VALUE;
        private Duration keepAge = Duration.ofDays(36_500);
        private Compress compress = Compress.GZIP;
        private boolean sync;
        private String permissions = "rw-r-----";
        private ZoneId zone;

        private Builder(Path path) {
            this.path = Objects.requireNonNull(path, "path");
        }

        /** Archives the file before it exceeds this size. Default: 50 MiB. */
        public Builder rotateAt(long bytes) {
            rotateAt = atLeast(1024, bytes, "rotate.at");
            return this;
        }

        /** Archives the file when an hour or a day begins, in the zone. Default: never. */
        public Builder rotateEvery(Every every) {
            rotateEvery = Objects.requireNonNull(every, "every");
            return this;
        }

        /** Deletes the oldest archived files when they exceed this size in total. Default: 1 GiB. */
        public Builder keepTotal(long bytes) {
            keepTotal = atLeast(1, bytes, "keep.total");
            return this;
        }

        /** Deletes the oldest archived files when there are more. Default: unlimited. */
        public Builder keepCount(int files) {
            keepCount = (int) atLeast(1, files, "keep.count");
            return this;
        }

        /** Deletes files that were archived longer ago. Default: a hundred years. */
        public Builder keepAge(Duration age) {
            keepAge = positive(age);
            return this;
        }

        /** Whether archived files are compressed with gzip, on a background thread. Default: true. */
        public Builder compress(boolean compress) {
            return compress(compress ? Compress.GZIP : Compress.NO);
        }

        /** Whether and how archived files are compressed, on a background thread. Default: with gzip. */
        public Builder compress(Compress compress) {
            this.compress = Objects.requireNonNull(compress, "compress");
            return this;
        }

        /** Whether each batch is forced to the disk before the next one. Default: false. */
        public Builder sync(boolean sync) {
            this.sync = sync;
            return this;
        }

        /** The permissions, if the file system supports them. Default: {@code rw-r-----}. */
        public Builder permissions(String permissions) {
            this.permissions = wellFormed(permissions);
            return this;
        }

        /** The time zone of hours and days. Default: that of the system. */
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
