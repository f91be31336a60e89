package dev.graphema.lines;

import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.Following;
import dev.graphema.query.source.Part;
import dev.graphema.query.source.Plan;
import dev.graphema.query.source.Rows;
import dev.graphema.query.source.Scan;
import dev.graphema.text.Times;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.SequenceInputStream;
import java.nio.file.Path;
import java.util.EnumSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.atomic.AtomicBoolean;

/**
 * A stream with one event per line, such as standard input, compressed or not. It can be read once, or followed once, and
 * is not closed.
 */
public final class LineStream implements EventSource {
    private static final String USUAL_NAME = "-";

    private final String name;
    private final InputStream stream;
    private final LineShape shape;
    private final boolean mayBeCompressed;
    private final AtomicBoolean isUsed = new AtomicBoolean();

    /** As below, for lines in common forms. */
    public LineStream(InputStream stream) {
        this(stream, LineShape.USUAL);
    }

    /**
     * Reads a stream.
     *
     * @param shape the shape of its lines
     */
    public LineStream(InputStream stream, LineShape shape) {
        this(USUAL_NAME, stream, shape);
    }

    /**
     * Reads a stream with a name.
     *
     * @param name its name in reports
     * @param shape the shape of its lines
     */
    public LineStream(String name, InputStream stream, LineShape shape) {
        this(name, stream, shape, true);
    }

    private LineStream(String name, InputStream stream, LineShape shape, boolean mayBeCompressed) {
        this.mayBeCompressed = mayBeCompressed;
        this.name = Objects.requireNonNull(name, "name");
        this.stream = Objects.requireNonNull(stream, "stream");
        this.shape = Objects.requireNonNull(shape, "shape");
    }

    /** As above, for a stream that is not compressed, even if its first bytes are those of a compressed one. */
    public static LineStream uncompressed(String name, InputStream stream, LineShape shape) {
        return new LineStream(name, stream, shape, false);
    }

    @Override
    public String name() {
        return name;
    }

    @Override
    public Set<Capability> capabilities() {
        return EnumSet.of(Capability.ORDER, Capability.LIVE);
    }

    /** Plans the only part. */
    @Override
    public Plan plan(Scan scan, CoverageBuilder coverage) {
        coverage.files(1, 0);
        LineSelection selection = LineSelection.of(scan);
        return Plan.deciding(scan, List.of(new Whole(selection)));
    }

    /** Passes on events as soon as they arrive. */
    @Override
    public Following follow(Condition where) throws IOException {
        use();
        CoverageBuilder coverage = new CoverageBuilder(Control.NONE);
        coverage.files(1, 0);
        return new StreamFollowing(open(stream, shape, LineSelection.of(where), coverage), coverage);
    }

    private void use() {
        if (!isUsed.compareAndSet(false, true)) {
            throw new IllegalStateException("the stream was read already: create a source for another one");
        }
    }

    private LineRows open(InputStream bytes, LineShape shape, LineSelection selection, CoverageBuilder coverage)
            throws IOException {
        LineShape asked = shape.asking(selection.fieldNames());
        return mayBeCompressed
                ? LineRows.of(name, bytes, asked, selection, coverage)
                : LineRows.uncompressed(name, bytes, asked, selection, coverage);
    }

    private final class Whole implements Part {
        private final LineSelection selection;

        Whole(LineSelection selection) {
            this.selection = selection;
        }

        @Override
        public Rows open(CoverageBuilder coverage) throws IOException {
            use();
            byte[] head = stream.readNBytes(HeadSample.MOST_BYTES);
            LineShape dated =
                    shape.times().near() == null ? shape.timed(shape.times().near(Times.now())) : shape;
            InputStream sample = new ByteArrayInputStream(head);
            LineShape inferred = HeadSample.of(
                            Path.of(name), mayBeCompressed ? Decompression.of(sample) : sample, dated)
                    .shape();
            InputStream whole = new SequenceInputStream(new ByteArrayInputStream(head), stream);
            return LineStream.this.open(whole, inferred, selection, coverage);
        }

        @Override
        public String name() {
            return name;
        }
    }

    private static final class StreamFollowing implements Following {
        private final LineRows rows;
        private final CoverageBuilder coverage;

        StreamFollowing(LineRows rows, CoverageBuilder coverage) {
            this.rows = rows;
            this.coverage = coverage;
        }

        /** Waits for an event, and passes on all events that can be read without waiting. */
        @Override
        public boolean poll(Listener listener) throws IOException {
            rows.live(listener::foreign);
            Event event;
            while ((event = rows.next()) != null) {
                listener.event(event);
                if (!rows.isMoreAtHand()) {
                    return true;
                }
            }
            return false;
        }

        @Override
        public Coverage coverage() {
            return coverage.coverage();
        }

        @Override
        public void close() {
            // the stream belongs to the caller
        }
    }
}
