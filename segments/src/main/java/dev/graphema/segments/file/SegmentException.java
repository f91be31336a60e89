package dev.graphema.segments.file;

import java.io.IOException;

/** A file that is not a segment, or a damaged one; the message describes the error and what to do. */
public final class SegmentException extends IOException {
    private static final long serialVersionUID = 1;

    public SegmentException(String message) {
        super(message);
    }

    public SegmentException(String message, Throwable cause) {
        super(message, cause);
    }
}
