package dev.graphema.lines;

import dev.graphema.lines.shape.LineShape;
import dev.graphema.text.Times;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** The shape of a file, inferred from its first lines when it is needed first. For any number of threads. */
final class FileShape {
    private final Path file;
    private final LineShape given;
    private LineShape inferred;

    /** @param given what is known beforehand */
    FileShape(Path file, LineShape given) {
        this.file = file;
        this.given = given;
    }

    /** Returns the shape of the lines. */
    synchronized LineShape get() {
        if (inferred == null) {
            inferred = infer();
        }
        return inferred;
    }

    private LineShape infer() {
        try {
            Long modified = Times.epochNanos(Files.getLastModifiedTime(file).toInstant());
            LineShape dated =
                    given.times().near() == null ? given.timed(given.times().near(modified)) : given;
            return Files.isRegularFile(file) ? HeadSample.of(file, dated) : dated;
        } catch (IOException e) {
            return given; // what cannot be read is reported when the file is
        }
    }
}
