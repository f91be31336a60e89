package dev.graphema.lines;

import com.github.luben.zstd.ZstdInputStream;
import java.io.BufferedInputStream;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.SequenceInputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.zip.GZIPInputStream;

/** Decompresses gzip (RFC 1952) and zstd (RFC 8878), which are recognised by their first bytes. */
public final class Decompression {
    private static final int BUFFER = 256 * 1024;
    private static final int MAGIC = 4;
    private static final byte[] GZIP = {0x1F, (byte) 0x8B};
    private static final byte[] ZSTD = {0x28, (byte) 0xB5, 0x2F, (byte) 0xFD};

    private Decompression() {}

    /** Opens the decompressed bytes of a file. */
    public static InputStream of(Path path) throws IOException {
        return of(Files.newInputStream(path));
    }

    /** Returns the decompressed bytes, or the bytes if they are not compressed. */
    static InputStream of(InputStream bytes) throws IOException {
        try {
            byte[] head = bytes.readNBytes(MAGIC);
            InputStream whole = new SequenceInputStream(new ByteArrayInputStream(head), bytes);
            if (startsWith(head, GZIP)) {
                return new GZIPInputStream(new BufferedInputStream(whole, BUFFER), BUFFER);
            }
            return startsWith(head, ZSTD)
                    ? new ZstdInputStream(new BufferedInputStream(whole, BUFFER)).setContinuous(true)
                    : whole; // the reader of lines has a buffer
        } catch (IOException e) {
            bytes.close();
            throw e;
        }
    }

    private static boolean startsWith(byte[] head, byte[] magic) {
        return head.length >= magic.length && Arrays.equals(head, 0, magic.length, magic, 0, magic.length);
    }
}
