package dev.graphema.segments;

import dev.graphema.segments.file.Directory;
import dev.graphema.segments.file.OptionalBlock;
import dev.graphema.segments.file.SegmentFile;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** The lines of a segment, and the check of a segment. */
public final class SegmentLines {
    private SegmentLines() {}

    /**
     * Writes all lines in their order, byte by byte as they were added, each with a line feed.
     *
     * @return the number of lines
     * @throws IOException if the segment is damaged or cannot be read, or the lines cannot be written
     */
    public static long copy(Path segment, OutputStream to) throws IOException {
        long lines = 0;
        try (SegmentCursor cursor = new SegmentCursor(segment)) {
            while (cursor.next()) {
                to.write(cursor.line());
                to.write('\n');
                lines++;
            }
        }
        return lines;
    }

    /**
     * Reads every block and checks its checksum.
     *
     * @return what is damaged, one sentence each; empty if nothing is
     * @throws IOException if the file is no segment, or cannot be read
     */
    public static List<String> damage(Path segment) throws IOException {
        List<String> damage = new ArrayList<>();
        try (SegmentFile file = SegmentFile.open(segment)) {
            for (Directory.Group group : file.contents().groups()) {
                for (Directory.Block block : group.blocks()) {
                    if (!file.isSound(block)) {
                        damage.add(
                                file.path() + ": " + file.damaged(block, null).getMessage());
                    }
                }
                for (Directory.Block block : group.optionalBlocks()) {
                    if (!file.isSound(block)) {
                        damage.add(file.path() + ": " + OptionalBlock.damaged(block));
                    }
                }
            }
        }
        return damage;
    }
}
