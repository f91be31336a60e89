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

    /** Returns the shape of the lines; what is known beforehand if the file cannot be read, which is reported then. */
    synchronized LineShape get() {
        if (inferred == null) {
            try {
                inferred = Files.isRegularFile(file) ? inferred().shape() : given;
            } catch (IOException e) {
                inferred = given;
            }
        }
        return inferred;
    }

    /** Returns the shape with what the first lines show. */
    LogShape inferred() throws IOException {
        Long modified = Times.epochNanos(Files.getLastModifiedTime(file).toInstant());
        LineShape dated =
                given.times().near() == null ? given.timed(given.times().near(modified)) : given;
        return HeadSample.of(file, dated);
    }
}
