package dev.graphema.segments.store;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * The names of the files of a store.
 *
 * @param path the folder
 */
record StoreFolder(Path path) {
    private static final Pattern LOG = Pattern.compile("([0-9]{10})\\.glog");
    private static final Pattern SEGMENT = Pattern.compile("[0-9]{10}\\.gseg(\\.unfinished)?");

    Path log(long number) {
        return path.resolve(String.format(Locale.ROOT, "%010d.glog", number));
    }

    Path segment(String file) {
        return path.resolve(file);
    }

    /** Returns the numbers of the logs from this one on, in their order. */
    List<Long> logsFrom(long first) throws IOException {
        try (Stream<Path> files = Files.list(path)) {
            return files.map(StoreFolder::numberOfLog)
                    .filter(number -> number >= first)
                    .sorted()
                    .toList();
        }
    }

    /** Returns -1 for what is not a log. */
    private static long numberOfLog(Path file) {
        Matcher name = LOG.matcher(file.getFileName().toString());
        return name.matches() ? Long.parseLong(name.group(1)) : -1;
    }

    /** Returns the files that look like those of a store: logs and segments, also unfinished ones. */
    List<Path> files() throws IOException {
        try (Stream<Path> files = Files.list(path)) {
            return files.filter(StoreFolder::isOfStore).sorted().toList();
        }
    }

    private static boolean isOfStore(Path file) {
        String name = file.getFileName().toString();
        return LOG.matcher(name).matches() || SEGMENT.matcher(name).matches();
    }

    static boolean isSegment(Path file) {
        return SEGMENT.matcher(file.getFileName().toString()).matches();
    }
}
