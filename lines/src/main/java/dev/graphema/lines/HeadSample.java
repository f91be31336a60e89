package dev.graphema.lines;

import dev.graphema.lines.form.LineSample;
import dev.graphema.lines.json.LinePrefix;
import dev.graphema.lines.json.LineReader;
import dev.graphema.lines.shape.InferredShape;
import dev.graphema.lines.shape.LineForm;
import dev.graphema.lines.shape.LineShape;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;

/** Infers the shape of a log from its first lines, of which at most {@value #MOST_BYTES} bytes are read. */
final class HeadSample {
    static final int MOST_BYTES = 512 * 1024;

    private HeadSample() {}

    /** Returns the shape of a file, with what its first lines show. */
    static LogShape of(Path file, LineShape shape) throws IOException {
        try (InputStream stream = Decompression.of(Files.newInputStream(file))) {
            return of(file, stream, shape);
        }
    }

    /** As above, for the decompressed bytes of a log. */
    static LogShape of(Path file, InputStream stream, LineShape shape) {
        LineReader lines = new LineReader(new LimitedStream(stream, MOST_BYTES));
        LineSample sample = new LineSample(shape);
        for (int count = 0; count < LineSample.MOST_LINES && hasNext(lines); count++) {
            if (count == 0 && LinePrefix.isOwn(lines.bytes(), lines.start(), lines.end())) {
                return new LogShape(file, Map.of(LineForm.OWN, 1L), List.of(), shape);
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
        if (inferred.order() != null && shape.times().order() == null) {
            found = found.timed(shape.times().order(inferred.order()));
        }
        return new LogShape(file, sample.lines(), sample.names(found), found);
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
