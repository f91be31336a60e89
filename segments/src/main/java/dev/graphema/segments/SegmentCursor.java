package dev.graphema.segments;

import dev.graphema.query.source.Control;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.segments.column.Texts;
import dev.graphema.segments.file.Directory;
import dev.graphema.segments.file.SegmentFile;
import dev.graphema.segments.line.Shapes;
import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Iterator;

/** Reads the lines of a segment in their order, byte by byte as they were added. For one thread. */
public final class SegmentCursor implements Closeable {
    private final SegmentFile file;
    private final Iterator<Directory.Group> groups;
    private GroupReader group;
    private Texts others;
    private long[] otherTimes;
    private int other;
    private int next;
    private byte[] line;
    private long time = Long.MIN_VALUE;
    private boolean isOther;

    /**
     * Opens a segment.
     *
     * @throws IOException if it cannot be read, or is damaged in its directory
     */
    public SegmentCursor(Path segment) throws IOException {
        file = SegmentFile.open(segment);
        groups = file.contents().groups().iterator();
    }

    /**
     * Moves to the next line.
     *
     * @return false if there are no more
     * @throws IOException if it cannot be read, or is damaged
     */
    public boolean next() throws IOException {
        while (group == null || next == group.lines()) {
            if (!groups.hasNext()) {
                return false;
            }
            group = new GroupReader(file, groups.next(), new CoverageBuilder(Control.NONE));
            group.followAll();
            others = group.others();
            otherTimes = group.otherTimes();
            other = 0;
            next = 0;
        }
        try {
            read();
        } catch (IndexOutOfBoundsException e) {
            throw group.inconsistent(e);
        }
        return true;
    }

    private void read() throws IOException {
        int shape = group.shape(next++);
        isOther = shape == Shapes.NONE;
        if (isOther) {
            int code = others.code(other);
            line = Arrays.copyOfRange(others.bytes(), others.from(code), others.to(code));
            time = otherTimes == null ? time : otherTimes[other];
            other++;
        } else {
            line = group.line(shape);
            time = group.time(shape);
            group.pass(shape);
        }
    }

    /** Returns whether a line may have a member with this name; false if certainly none has. */
    public boolean mayHaveMember(String name) {
        return file.contents().columns().stream()
                        .anyMatch(column -> column.path().equals(name))
                || file.contents().groups().stream().anyMatch(each -> each.others() != null);
    }

    /** Returns the current line, without its line feed; it must not be changed. */
    public byte[] line() {
        return line;
    }

    /** Returns whether the line is kept unchanged, because it is not Graphema JSON in its usual form. */
    public boolean isOther() {
        return isOther;
    }

    /**
     * Returns the time of its event, in nanoseconds since 1970; for a line that is not Graphema JSON, and was added without a
     * time, that of the line before, which is the least value for the first one.
     */
    public long time() {
        return time;
    }

    @Override
    public void close() throws IOException {
        file.close();
    }
}
