package dev.graphema.segments.store;

import dev.graphema.condition.Condition;
import dev.graphema.lines.LineStream;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.Following;
import dev.graphema.segments.log.LogLines;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.util.List;

/** Passes on the events of a store as they are appended. For one thread. */
public final class StoreFollowing implements Following {
    private final StoreFolder folder;
    private final Condition where;
    private final LineShape shape;
    private final CoverageBuilder coverage = new CoverageBuilder(Control.NONE);

    /** The log that is read, and where. */
    private long log;

    private long offset;

    StoreFollowing(StoreFolder folder, Condition where, LineShape shape, Manifest manifest, List<Long> logs)
            throws IOException {
        this.folder = folder;
        this.where = where;
        this.shape = shape;
        log = logs.isEmpty() ? manifest.firstLog() : logs.get(logs.size() - 1);
        if (!logs.isEmpty()) {
            lines(log); // what is there already
        }
    }

    /** Returns up to where events were passed on. */
    public LogPlace place() {
        return new LogPlace(log, offset);
    }

    @Override
    public boolean poll(Listener listener) throws IOException {
        for (long each : folder.logsFrom(log)) {
            if (each > log) {
                log = each;
                offset = 0;
            }
            byte[] lines = lines(each);
            Following added = LineStream.uncompressed(
                            folder.log(each).toString(), new ByteArrayInputStream(lines), shape)
                    .follow(where);
            while (added.poll(listener)) {
                // on until all are passed on
            }
        }
        return true;
    }

    /** Returns the lines that were added to a log. */
    private byte[] lines(long number) throws IOException {
        try (LogLines in = new LogLines(
                folder.log(number),
                offset,
                damage -> coverage.failed(folder.log(number).toString(), damage))) {
            byte[] lines = in.readAllBytes();
            offset = in.offset();
            return lines;
        }
    }

    @Override
    public Coverage coverage() {
        return coverage.coverage();
    }

    @Override
    public void close() {
        // nothing is open between polls
    }
}
