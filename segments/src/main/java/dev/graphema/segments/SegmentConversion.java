package dev.graphema.segments;

import dev.graphema.lines.Decompression;
import dev.graphema.lines.json.Bytes;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.source.Control;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;

/** Converts log files, compressed or not, into segments. */
public final class SegmentConversion {
    private static final int BUFFER = 1 << 20;

    private SegmentConversion() {}

    /**
     * What was converted.
     *
     * @param lines the number of lines
     * @param bytes their bytes, decompressed, with line feeds
     * @param segmentBytes the bytes of the segment
     */
    public record Result(long lines, long bytes, long segmentBytes) {}

    /**
     * Writes all lines of a file into a segment, which replaces an earlier one when it is complete.
     *
     * @param control watches the progress, and can stop it
     * @return null if it was stopped; then there is no segment
     * @throws IOException if the file cannot be read or the segment cannot be written, or a line is longer than {@value
     *     LineShape#MAX_LINE} bytes
     */
    public static Result convert(Path log, Path segment, Control control) throws IOException {
        try (SegmentWriter writer = new SegmentWriter(segment)) {
            Result read = convert(log, writer, control);
            return read == null ? null : new Result(read.lines(), read.bytes(), Files.size(segment));
        }
    }

    /** As above, with a writer, which is finished if the conversion was not stopped; the size is not known. */
    static Result convert(Path log, SegmentWriter writer, Control control) throws IOException {
        long size = Files.size(log);
        long lines = 0;
        long bytes = 0;
        byte[] buffer = new byte[BUFFER];
        int length = 0;
        try (InputStream in = Decompression.of(log)) {
            int count;
            while ((count = in.read(buffer, length, buffer.length - length)) >= 0) {
                int searched = length;
                length += count;
                bytes += count;
                int from = 0;
                int end;
                while ((end = Bytes.indexOf('\n', buffer, Math.max(from, searched), length)) >= 0) {
                    writer.add(buffer, from, end);
                    from = end + 1;
                    lines++;
                }
                length -= from;
                System.arraycopy(buffer, from, buffer, 0, length);
                if (length > LineShape.MAX_LINE) {
                    throw new IOException(
                            log + ": line " + (lines + 1) + " is longer than " + LineShape.MAX_LINE + " bytes");
                }
                if (length == buffer.length) {
                    buffer = Arrays.copyOf(buffer, 2 * length);
                }
                if (!control.continues(new Control.Progress(lines, bytes, Math.max(size, bytes)))) {
                    return null;
                }
            }
            if (length > 0) {
                writer.add(buffer, 0, length);
                lines++;
            }
            writer.finish();
        }
        return new Result(lines, bytes, 0);
    }
}
