package dev.graphema.segments.file;

import java.util.zip.CRC32C;

/** What begins and ends a segment. See docs/segments.md. */
final class SegmentForm {
    /** The bytes G, S, E, G. */
    static final int MAGIC = 0x47455347;

    static final int VERSION = 1;

    /** Magic number and version. */
    static final int HEADER = 8;

    /** The offset, packed length, length and checksum of the directory, and magic number and version again. */
    static final int TRAILER = 8 + 4 + 4 + 4 + 8;

    private SegmentForm() {}

    static int checksum(byte[] bytes, int length) {
        CRC32C checksum = new CRC32C();
        checksum.update(bytes, 0, length);
        return (int) checksum.getValue();
    }
}
