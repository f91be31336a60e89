package dev.graphema.segments;

import dev.graphema.query.source.Control;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.segments.column.PieceStream;
import dev.graphema.segments.column.Texts;
import dev.graphema.segments.file.Directory;
import dev.graphema.segments.file.SegmentException;
import dev.graphema.segments.file.SegmentFile;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Iterator;

/**
 * The lines of a segment that are kept unchanged, as a stream. Of a large segment, only the lines of one group are in memory.
 * For one thread.
 */
final class OtherLines extends PieceStream {
    private static final byte[] FEED = {'\n'};

    private final SegmentFile file;
    private final Iterator<Directory.Group> groups;
    private final CoverageBuilder coverage;

    /** The lines of the current group; null before the first one. */
    private Texts lines;

    private int line = -1;
    private boolean isFeedNext;

    /** @param coverage receives what is damaged; the bytes are counted by the reader of this stream */
    OtherLines(Path path, CoverageBuilder coverage) throws IOException {
        this.file = SegmentFile.open(path);
        this.groups = file.contents().groups().iterator();
        this.coverage = coverage;
    }

    @Override
    protected boolean hasNextPiece() throws IOException {
        if (isFeedNext) {
            isFeedNext = false;
            piece(FEED, 0, 1);
            return true;
        }
        while (lines == null || line + 1 >= lines.count()) {
            if (!groups.hasNext()) {
                return false;
            }
            line = -1;
            lines = linesOf(groups.next());
        }
        int code = lines.code(++line);
        piece(lines.bytes(), lines.from(code), lines.to(code));
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
