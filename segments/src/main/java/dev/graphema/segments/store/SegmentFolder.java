package dev.graphema.segments.store;

import dev.graphema.segments.SegmentCursor;
import dev.graphema.segments.SegmentWriter;
import dev.graphema.segments.log.Disk;
import dev.graphema.segments.log.NewFile;
import java.io.ByteArrayOutputStream;
import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.PriorityQueue;

/** The segments in the folder of a store. For one thread. */
final class SegmentFolder {
    private static final int PIECE = 16 << 20;

    private static final int LINES_BETWEEN = 4096;

    private final StoreFolder folder;
    private final Disk disk;

    SegmentFolder(StoreFolder folder, Disk disk) {
        this.folder = folder;
        this.disk = disk;
    }

    /** Adds lines to a segment. */
    @FunctionalInterface
    interface Lines {
        void addTo(Draft segment) throws IOException;
    }

    /** A segment that is being written. */
    static final class Draft {
        private final SegmentWriter writer;
        private long from = Long.MAX_VALUE;
        private long to = Long.MIN_VALUE;
        private long lines;

        private Draft(SegmentWriter writer) {
            this.writer = writer;
        }

        /** Adds a line with the time of its event. */
        void add(byte[] line, int begin, int end, long time) throws IOException {
            writer.add(line, begin, end, time);
            from = Math.min(from, time);
            to = Math.max(to, time);
            lines++;
        }
    }

    /**
     * Writes a segment, which survives a power failure when this returns.
     *
     * @param number its number, which no other one has had
     * @param rule the index of the retention rule of its events
     * @param rules the key of the retention rules
     */
    Manifest.Entry write(long number, int rule, String rules, Lines lines) throws IOException {
        String name = String.format(Locale.ROOT, "%010d.gseg", number);
        Path file = folder.segment(name);
        Path unfinished = folder.segment(name + ".unfinished");
        disk.delete(unfinished);
        try (NewFile to = disk.create(unfinished);
                SegmentWriter writer = new SegmentWriter(to)) {
            Draft draft = new Draft(writer);
            lines.addTo(draft);
            writer.finish();
            to.force();
            disk.rename(unfinished, file);
            return new Manifest.Entry(name, rule, rules, draft.from, draft.to, draft.lines, Files.size(file));
        } catch (IOException e) {
            try {
                disk.delete(unfinished);
            } catch (IOException another) {
                e.addSuppressed(another);
            }
            throw e;
        }
    }

    Path path(Manifest.Entry segment) {
        return folder.segment(segment.file());
    }

    /** What is done from time to time while many lines are written. */
    @FunctionalInterface
    interface Meanwhile {
        void run() throws IOException;
    }

    /** Returns the lines of segments in the order of time. */
    Lines merged(List<Manifest.Entry> segments, Meanwhile meanwhile) {
        return to -> {
            PriorityQueue<Source> sources = new PriorityQueue<>();
            List<Source> all = new ArrayList<>();
            try {
                for (Manifest.Entry each : segments) {
                    Source source = new Source(all.size(), new SegmentCursor(path(each)));
                    all.add(source);
                    if (source.cursor.next()) {
                        sources.add(source);
                    }
                }
                for (long count = 1; !sources.isEmpty(); count++) {
                    if (count % LINES_BETWEEN == 0) {
                        meanwhile.run();
                    }
                    Source next = sources.poll();
                    byte[] line = next.cursor.line();
                    to.add(line, 0, line.length, next.cursor.time());
                    if (next.cursor.next()) {
                        sources.add(next);
                    }
                }
            } finally {
                for (Source each : all) {
                    each.close();
                }
            }
        };
    }

    /** Receives some lines, each with its line feed. */
    @FunctionalInterface
    interface Piece {
        void accept(byte[] lines) throws IOException;
    }

    /** Passes on the lines of a segment, some megabytes at a time. */
    void pieces(Manifest.Entry segment, Piece to) throws IOException {
        ByteArrayOutputStream lines = new ByteArrayOutputStream();
        try (SegmentCursor cursor = new SegmentCursor(path(segment))) {
            while (cursor.next()) {
                // If possible not between lines of text, which may be those of one event.
                if (lines.size() >= PIECE && (!cursor.isOther() || lines.size() >= 2 * PIECE)) {
                    to.accept(lines.toByteArray());
                    lines.reset();
                }
                lines.write(cursor.line());
                lines.write('\n');
            }
        }
        if (lines.size() > 0) {
            to.accept(lines.toByteArray());
        }
    }

    /** A segment that is merged; of the same time, the lines of an earlier one come first. */
    private record Source(int place, SegmentCursor cursor) implements Comparable<Source>, Closeable {
        @Override
        public int compareTo(Source other) {
            int byTime = Long.compare(cursor.time(), other.cursor.time());
            return byTime != 0 ? byTime : Integer.compare(place, other.place);
        }

        @Override
        public void close() throws IOException {
            cursor.close();
        }
    }
}
