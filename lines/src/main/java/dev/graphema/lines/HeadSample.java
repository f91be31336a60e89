package dev.graphema.lines;

import dev.graphema.lines.form.LineSample;
import dev.graphema.lines.json.LinePrefix;
import dev.graphema.lines.json.LineReader;
import dev.graphema.lines.shape.InferredShape;
import dev.graphema.lines.shape.LineShape;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;

/** Infers the shape of a log from its first lines, of which at most {@value #MOST_BYTES} bytes are read. */
final class HeadSample {
    static final int MOST_BYTES = 512 * 1024;

    private HeadSample() {}

    /** Returns the shape with that of the first lines of a file; unchanged if it begins with Graphema JSON. */
    static LineShape of(Path file, LineShape shape) throws IOException {
        try (InputStream stream = Decompression.of(Files.newInputStream(file))) {
            return of(stream, shape);
        }
    }

    /** As above, for the decompressed bytes of a log. */
    static LineShape of(InputStream stream, LineShape shape) throws IOException {
        LineReader lines = new LineReader(new LimitedStream(stream, MOST_BYTES));
        LineSample sample = new LineSample(shape);
        for (int count = 0; count < LineSample.MOST_LINES && hasNext(lines); count++) {
            if (count == 0 && LinePrefix.isOwn(lines.bytes(), lines.start(), lines.end())) {
                return shape;
            }
            if (lines.isTooLong() || lines.isBlank()) {
                continue;
            }
            if (lines.isObject()) {
                sample.object(lines.bytes(), lines.start(), lines.end());
            } else {
                sample.text(lines.bytes(), lines.start(), lines.end());
            }
        }
        InferredShape inferred = sample.shape();
        LineShape found = shape.inferred(inferred);
        return inferred.order() == null || shape.times().order() != null
                ? found
                : found.timed(shape.times().order(inferred.order()));
    }

    /** Whether there is a line; damaged compressed data end the sample, and are reported when the log is read. */
    private static boolean hasNext(LineReader lines) {
        try {
            return lines.next();
        } catch (IOException e) {
            return false;
        }
    }
}
