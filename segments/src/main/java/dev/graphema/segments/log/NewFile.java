package dev.graphema.segments.log;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.WritableByteChannel;

/** A new file that is written. For one thread. */
public interface NewFile extends WritableByteChannel {
    /**
     * Writes all bytes to its end. If that fails, a part of them may be written.
     *
     * @param bytes a buffer with an array
     */
    @Override
    int write(ByteBuffer bytes) throws IOException;

    /** Returns when the written bytes survive a power failure. */
    void force() throws IOException;

    /** Cuts it back to this length. */
    void truncate(long length) throws IOException;
}
