package dev.graphema.segments;

import dev.graphema.query.source.Control;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.segments.column.Texts;
import dev.graphema.segments.file.Directory;
import dev.graphema.segments.file.SegmentException;
import dev.graphema.segments.file.SegmentFile;
import dev.graphema.segments.line.Shapes;
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
        try (SegmentFile file = SegmentFile.open(segment)) {
            for (Directory.Group group : file.contents().groups()) {
                copy(file, group, to);
                lines += group.lines();
            }
        }
        return lines;
    }

    private static void copy(SegmentFile file, Directory.Group group, OutputStream to) throws IOException {
        GroupReader reader = new GroupReader(file, group, new CoverageBuilder(Control.NONE));
        Texts others = reader.others();
        int other = 0;
        for (int line = 0; line < group.lines(); line++) {
            int shape = reader.shape(line);
            if (shape != Shapes.NONE) {
                to.write(reader.line(shape));
                reader.pass(shape);
            } else {
                int code = others.code(other++);
                to.write(others.bytes(), others.from(code), others.to(code) - others.from(code));
            }
            to.write('\n');
        }
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
                check(file, group.shapes(), damage);
                if (group.others() != null) {
                    check(file, group.others(), damage);
                }
                for (Directory.Values values : group.values().values()) {
                    check(file, values.block(), damage);
                }
            }
        }
        return damage;
    }

    private static void check(SegmentFile file, Directory.Block block, List<String> damage) throws IOException {
        try {
            file.read(block);
        } catch (SegmentException e) {
            damage.add(file.path() + ": " + e.getMessage());
        }
    }
}
