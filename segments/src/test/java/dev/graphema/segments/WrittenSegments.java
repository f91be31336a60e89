package dev.graphema.segments;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;

/** Segments of tests. */
final class WrittenSegments {
    private WrittenSegments() {}

    static void write(Path segment, List<String> lines) throws IOException {
        try (SegmentWriter writer = new SegmentWriter(segment)) {
            for (String line : lines) {
                byte[] bytes = line.getBytes(StandardCharsets.UTF_8);
                writer.add(bytes, 0, bytes.length);
            }
            writer.finish();
        }
    }
}
