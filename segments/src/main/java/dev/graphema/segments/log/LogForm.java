package dev.graphema.segments.log;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.zip.CRC32C;

/** The form of a log: a header, and batches of lines, each with its length and checksum. Numbers are little-endian. */
final class LogForm {
    /** {@code GLOG}. */
    static final int MAGIC = 0x474F4C47;

    static final int VERSION = 1;
    static final int HEADER = 8;

    /** Begins a batch: {@code GBAT}, which also helps to find the next one behind damage. */
    static final int BATCH_MAGIC = 0x54414247;

    /** The bytes before the lines of a batch: magic, length of the lines, their CRC-32C, and that of these three numbers. */
    static final int BATCH_HEADER = 16;

    private LogForm() {}

    static ByteBuffer buffer(int length) {
        return ByteBuffer.allocate(length).order(ByteOrder.LITTLE_ENDIAN);
    }

    static int checksum(byte[] bytes, int from, int length) {
        CRC32C crc = new CRC32C();
        crc.update(bytes, from, length);
        return (int) crc.getValue();
    }
}
