package dev.graphema.segments.log;

import dev.graphema.lines.json.JsonTime;
import dev.graphema.query.Window;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * The times of the events in logs, so that a question about a window does not read a log from its begin. Each byte is read once, when
 * the first question after it is asked. Of logs with anything else than Graphema JSON, all is read. Thread-safe.
 */
public final class LogTimes {
    private static final byte[] BEGIN = "{\"time\":\"".getBytes(StandardCharsets.US_ASCII);
    private static final byte[] AFTER_TIME = "Z\"".getBytes(StandardCharsets.US_ASCII);
    private static final byte[] ANOTHER_TIME = "time\"".getBytes(StandardCharsets.US_ASCII);

    /** Batches are gathered to blocks of about this size. */
    private static final int BLOCK = 1 << 20;

    private final Map<Long, Log> logs = new HashMap<>();

    /**
     * A part of a log.
     *
     * @param from where it begins in the file; 0 for the begin
     * @param to where it ends
     * @param bytesBefore the number of bytes of lines before it
     */
    public record Stretch(long from, long to, long bytesBefore) {
        /** All of it, also what is appended later. */
        public static final Stretch WHOLE = new Stretch(0, Long.MAX_VALUE, 0);
    }

    private record Block(Stretch place, long earliest, long latest) {}

    /** What is known of a log. For one thread at a time. */
    private static final class Log {
        private final JsonTime time = new JsonTime();
        private final List<Block> blocks = new ArrayList<>();
        private boolean isPlain = true;
        private long end;
        private long bytes;

        // Of the block that is being gathered.
        private long begin;
        private long bytesBefore;
        private long earliest = Long.MAX_VALUE;
        private long latest = Long.MIN_VALUE;
    }

    /** Forgets the logs before a number, which are sealed. */
    public synchronized void keepFrom(long number) {
        logs.keySet().removeIf(each -> each < number);
    }

    /**
     * Returns the part of a log that contains all its events in a window; null if there are none.
     *
     * @throws IOException if it cannot be read
     */
    public synchronized Stretch stretch(long number, Path file, Window during) throws IOException {
        Log log = logs.computeIfAbsent(number, missing -> new Log());
        if (log.isPlain && Files.size(file) > log.end) {
            extend(log, file);
        }
        if (!log.isPlain) {
            return Stretch.WHOLE;
        }
        Stretch found = null;
        for (Block each : log.blocks) {
            if (each.latest >= during.from() && each.earliest <= during.to()) {
                found = found == null ? each.place : new Stretch(found.from, each.place.to, found.bytesBefore);
            }
        }
        boolean isNew = log.latest >= during.from() && log.earliest <= during.to();
        if (isNew) {
            found = found == null
                    ? new Stretch(log.begin, log.end, log.bytesBefore)
                    : new Stretch(found.from, log.end, found.bytesBefore);
        }
        return found;
    }

    private static void extend(Log log, Path file) throws IOException {
        try (LogLines lines = new LogLines(file, log.end, damage -> log.isPlain = false)) {
            log.begin = log.end == 0 ? lines.offset() : log.begin;
            ByteBuffer batch;
            while (log.isPlain && (batch = lines.nextBatch()) != null) {
                log.isPlain &= add(batch, log);
                log.bytes += batch.remaining();
                log.end = lines.offset();
                endBlock(log);
            }
        }
    }

    /** Ends the current block if it is large enough. */
    private static void endBlock(Log log) {
        if (log.end - log.begin >= BLOCK) {
            Stretch place = new Stretch(log.begin, log.end, log.bytesBefore);
            log.blocks.add(new Block(place, log.earliest, log.latest));
            log.begin = log.end;
            log.bytesBefore = log.bytes;
            log.earliest = Long.MAX_VALUE;
            log.latest = Long.MIN_VALUE;
        }
    }

    /** Returns whether all lines are Graphema JSON. */
    private static boolean add(ByteBuffer batch, Log log) {
        byte[] bytes = batch.array();
        int end = batch.arrayOffset() + batch.limit();
        int begin = batch.arrayOffset() + batch.position();
        while (begin < end) {
            int next = begin;
            while (next < end && bytes[next] != '\n') {
                next++;
            }
            if (!isPlain(bytes, begin, next, log.time)) {
                return false;
            }
            log.earliest = Math.min(log.earliest, log.time.epochNanos());
            log.latest = Math.max(log.latest, log.time.epochNanos());
            begin = next + 1;
        }
        return true;
    }

    /** Returns whether a line begins with its time, and nothing in it could be another one. */
    private static boolean isPlain(byte[] bytes, int begin, int end, JsonTime time) {
        int after = begin + BEGIN.length + JsonTime.LENGTH;
        if (end < after + AFTER_TIME.length
                || bytes[end - 1] != '}'
                || !isAt(bytes, begin, BEGIN)
                || !isAt(bytes, after, AFTER_TIME)
                || !time.isAt(bytes, begin + BEGIN.length)) {
            return false;
        }
        for (int i = after + AFTER_TIME.length; i < end - ANOTHER_TIME.length; i++) {
            boolean isOther = bytes[i] == '"' && isAt(bytes, i + 1, ANOTHER_TIME);
            if (isOther || bytes[i] == '\\' && bytes[i + 1] == 'u') {
                return false;
            }
        }
        return true;
    }

    private static boolean isAt(byte[] bytes, int at, byte[] text) {
        for (int i = 0; i < text.length; i++) {
            if (bytes[at + i] != text[i]) {
                return false;
            }
        }
        return true;
    }
}
