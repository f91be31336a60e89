package dev.graphema.segments.store;

import dev.graphema.segments.SegmentLines;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;

/** What several tests of stores need. */
final class StoreTools {
    private StoreTools() {}

    static String lines(Path segment) throws IOException {
        ByteArrayOutputStream lines = new ByteArrayOutputStream();
        SegmentLines.copy(segment, lines);
        return lines.toString(StandardCharsets.UTF_8);
    }
}
