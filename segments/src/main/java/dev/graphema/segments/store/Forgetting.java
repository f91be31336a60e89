package dev.graphema.segments.store;

import dev.graphema.query.row.Projection;
import dev.graphema.segments.SegmentCursor;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/** Deletes all events that contain a text. For one thread at a time. */
final class Forgetting {
    static final int SHORTEST = 4;

    private final Changes changes;
    private final TextInBytes text;

    Forgetting(Changes changes, String text) {
        if (text.strip().length() < SHORTEST || text.indexOf('\n') >= 0) {
            throw new IllegalArgumentException("the text \"" + text + "\" is in too many events: expected at least "
                    + SHORTEST + " characters of one line");
        }
        this.changes = changes;
        this.text = new TextInBytes(text);
    }

    /** Returns the number of deleted lines. */
    long delete() throws IOException {
        long deleted = 0;
        for (Manifest.Entry each : changes.manifest().segments()) {
            if (contains(changes.segments().path(each))) {
                deleted += delete(each);
            }
        }
        return deleted;
    }

    private boolean contains(Path segment) throws IOException {
        try (SegmentCursor cursor = new SegmentCursor(segment)) {
            while (cursor.next()) {
                byte[] line = cursor.line();
                if (text.isIn(line, 0, line.length)) {
                    return true;
                }
            }
        }
        return false;
    }

    private long delete(Manifest.Entry segment) throws IOException {
        List<Manifest.Entry> kept = new ArrayList<>();
        changes.segments()
                .pieces(
                        segment,
                        lines ->
                                // As one segment, independent of the order of its events.
                                kept.addAll(sorted(segment, lines)
                                        .writeTo(
                                                changes.segments(),
                                                any -> EventSorter.ALL_HOURS,
                                                segment.rules(),
                                                changes::takeNumber)));
        long lines =
                segment.lines() - kept.stream().mapToLong(Manifest.Entry::lines).sum();
        changes.replace(
                List.of(segment),
                kept,
                new Changes.Deleted("asked to forget a text", segment.from(), segment.to(), lines));
        return lines;
    }

    /** Returns the events, of which those that contain the text are dropped. */
    private EventSorter sorted(Manifest.Entry segment, byte[] lines) throws IOException {
        EventSorter sorted =
                new EventSorter(lines, Projection.of(List.of()), row -> segment.rule(), segment.rule(), segment.from());
        sorted.drop(text::isIn);
        return sorted;
    }

    /** Returns how many lines would be deleted. */
    long count() throws IOException {
        long[] lines = new long[1];
        for (Manifest.Entry each : changes.manifest().segments()) {
            if (contains(changes.segments().path(each))) {
                changes.segments()
                        .pieces(each, piece -> lines[0] += sorted(each, piece).droppedLines());
            }
        }
        return lines[0];
    }

    /**
     * Searches the text in all files of the store, in segments also in their lines.
     *
     * @throws IOException if it is there, or a file cannot be read
     */
    void verify() throws IOException {
        try (Stream<Path> files = Files.list(changes.folder().path())) {
            for (Path file : files.filter(Files::isRegularFile).toList()) {
                boolean isThere = StoreFolder.isSegment(file) && contains(file) || isInBytes(file);
                if (isThere) {
                    throw new IOException("the text is still in " + file
                            + (StoreFolder.isSegment(file) ? "" : ", which is not changed: remove it there by hand"));
                }
            }
        }
    }

    private boolean isInBytes(Path file) throws IOException {
        byte[] piece = new byte[1 << 20];
        int kept = 0;
        try (var in = Files.newInputStream(file)) {
            int count;
            while ((count = in.read(piece, kept, piece.length - kept)) > 0) {
                int length = kept + count;
                if (text.isIn(piece, 0, length)) {
                    return true;
                }
                kept = Math.min(length, text.longest());
                System.arraycopy(piece, length - kept, piece, 0, kept);
            }
        }
        return false;
    }
}
