package dev.graphema.sink;

import dev.graphema.option.Option;
import dev.graphema.option.Options;
import java.io.IOException;
import java.nio.file.AccessDeniedException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.ZoneId;
import java.util.List;

/** A file and its archived files; see {@link FileSink}. */
public final class FileKind implements SinkKind {
    private static final FileOptions STANDARD =
            FileOptions.builder(Path.of("x")).build();

    public static final Option<Path> PATH = Option.path("path", "a path such as logs/deck.jsonl")
            .required()
            .meaning("the file, relative to the working directory; folders are created. `{service}`, `{instance}` and"
                    + " `{date}` are replaced (in quotes within `{ }`)");
    public static final Option<Long> ROTATE_AT = Option.size("rotate.at", 1024)
            .standard(STANDARD.rotateAt())
            .meaning("the largest size of a file before it is archived");
    public static final Option<FileOptions.Every> ROTATE_EVERY = Option.word("rotate.every", FileOptions.Every.class)
            .standard(STANDARD.rotateEvery())
            .meaning("archives the file when an hour or day begins, also without events");
    public static final Option<Integer> KEEP_DAYS = Option.count("keep.days", 1, 36_500)
            .standard(null, "unlimited")
            .meaning("archived files that are older are deleted");
    public static final Option<Integer> KEEP_COUNT = Option.count("keep.count", 1, Integer.MAX_VALUE)
            .standard(null, "unlimited")
            .meaning("the most archived files; the oldest are deleted");
    public static final Option<Long> KEEP_TOTAL = Option.size("keep.total", 1024)
            .standard(STANDARD.keepTotal())
            .meaning("the most bytes of archived files; the oldest are deleted");
    public static final Option<FileOptions.Compress> COMPRESS = Option.words(
                    "compress",
                    "true, false or segment",
                    List.of(FileOptions.Compress.values()),
                    FileOptions.Compress::text)
            .standard(STANDARD.compress())
            .meaning(
                    "whether archived files are compressed with gzip, or as segments, which are smaller and are searched"
                            + " faster (requires `graphema-segments`)");
    public static final Option<Boolean> SYNC =
            Option.bool("sync").standard(STANDARD.sync()).meaning("whether each batch is forced to the disk");
    public static final Option<String> PERMISSIONS = Option.of(
                    "permissions", "nine letters such as rw-r-----", text -> FileOptions.wellFormed(text), text -> text)
            .standard(STANDARD.permissions())
            .meaning("the permissions of new files, if the file system supports them");
    public static final Option<ZoneId> ZONE =
            Option.zone("zone").standard(null, "the system's").meaning("the time zone of hours and days");

    FileKind() {}

    @Override
    public String name() {
        return "file";
    }

    @Override
    public String meaning() {
        return "a file, rotated by size and by clock, compressed and deleted within bounds";
    }

    @Override
    public List<Option<?>> options() {
        return List.of(
                PATH, ROTATE_AT, ROTATE_EVERY, KEEP_TOTAL, KEEP_COUNT, KEEP_DAYS, COMPRESS, SYNC, PERMISSIONS, ZONE);
    }

    @Override
    public String usualFormat() {
        return "json";
    }

    @Override
    public Sink open(Options options, SinkContext context) throws IOException {
        return FileSink.open(fileOptions(options, context), context.format(), context.health()::error);
    }

    @Override
    public void probe(Options options, SinkContext context) throws IOException {
        Path path = Path.of(context.named(options.get(PATH).toString())).toAbsolutePath();
        if (Files.exists(path) && !Files.isRegularFile(path)) {
            throw new IOException(path + " is not a file");
        }
        Path existing = path;
        while (existing != null && !Files.exists(existing)) {
            existing = existing.getParent();
        }
        if (existing == null || existing != path && !Files.isDirectory(existing)) {
            throw new IOException(path + " lies below " + existing + ", which is not a folder");
        }
        if (!Files.isWritable(existing)) {
            throw new AccessDeniedException(existing.toString());
        }
    }

    private static FileOptions fileOptions(Options options, SinkContext context) {
        FileOptions.Builder builder = FileOptions.builder(
                        Path.of(context.named(options.get(PATH).toString())))
                .rotateAt(options.get(ROTATE_AT))
                .rotateEvery(options.get(ROTATE_EVERY))
                .keepTotal(options.get(KEEP_TOTAL))
                .compress(options.get(COMPRESS))
                .sync(options.get(SYNC))
                .permissions(options.get(PERMISSIONS));
        if (options.has(ZONE)) {
            builder.zone(options.get(ZONE));
        }
        if (options.has(KEEP_DAYS)) {
            builder.keepAge(Duration.ofDays(options.get(KEEP_DAYS)));
        }
        if (options.has(KEEP_COUNT)) {
            builder.keepCount(options.get(KEEP_COUNT));
        }
        return builder.build();
    }

    @Override
    public String toString() {
        return name();
    }
}
