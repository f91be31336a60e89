package dev.graphema.segments;

import dev.graphema.query.source.Control;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.segments.column.Texts;
import dev.graphema.segments.file.Directory;
import dev.graphema.segments.file.SegmentException;
import dev.graphema.segments.file.SegmentFile;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.Iterator;

/**
 * The lines of a segment that are kept as they are, as a stream. Of a large segment, only the lines of one group are in memory.
 * For one thread.
 */
final class OtherLines extends InputStream {
    private final SegmentFile file;
    private final Iterator<Directory.Group> groups;
    private final CoverageBuilder coverage;

    /** The lines of the current group; null before the first one. */
    private Texts lines;

    private int line = -1;
    private int at;
    private int end;
    private boolean isFeedNext;

    /** @param coverage receives what is damaged; the bytes are counted by the reader of this stream */
    OtherLines(Path path, CoverageBuilder coverage) throws IOException {
        this.file = SegmentFile.open(path);
        this.groups = file.contents().groups().iterator();
        this.coverage = coverage;
    }

    @Override
    public int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }

    @Override
    public int read(byte[] to, int from, int most) throws IOException {
        int count = 0;
        while (count < most) {
            if (at < end) {
                int more = Math.min(end - at, most - count);
                System.arraycopy(lines.bytes(), at, to, from + count, more);
                at += more;
                count += more;
            } else if (isFeedNext) {
                to[from + count++] = '\n';
                isFeedNext = false;
            } else if (!nextLine()) {
                return count == 0 && most > 0 ? -1 : count;
            }
        }
        return count;
    }

    private boolean nextLine() throws IOException {
        while (lines == null || line + 1 >= lines.count()) {
            if (!groups.hasNext()) {
                return false;
            }
            line = -1;
            lines = linesOf(groups.next());
        }
        int code = lines.code(++line);
        at = lines.from(code);
        end = lines.to(code);
        isFeedNext = true;
        return true;
    }

    /** Returns null if there are none, or if they are damaged. */
    private Texts linesOf(Directory.Group group) throws IOException {
        if (group.others() == null) {
            return null;
        }
        try {
            return new GroupReader(file, group, new CoverageBuilder(Control.NONE)).others();
        } catch (SegmentException e) {
            coverage.failed(file.path().toString(), e.getMessage());
            return null;
        }
    }

    @Override
    public void close() throws IOException {
        file.close();
    }
}
