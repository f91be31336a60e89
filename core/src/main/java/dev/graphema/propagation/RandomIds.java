package dev.graphema.propagation;

import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.util.concurrent.ThreadLocalRandom;

/**
 * Random ids of traces, spans and runs. Threads do not share state. The seed comes from the operating system, so that
 * processes that start at the same time generate different ids. The ids are not secrets.
 */
public final class RandomIds {
    private static final long SEED = seed();

    private RandomIds() {}

    /** Returns 64 random bits that are not all zero. */
    public static long next() {
        long id;
        do {
            id = mixed(ThreadLocalRandom.current().nextLong() + SEED);
        } while (id == 0);
        return id;
    }

    /** The finalizer of SplitMix64: each bit depends on all others. */
    private static long mixed(long bits) {
        long z = (bits ^ bits >>> 30) * 0xBF58476D1CE4E5B9L;
        z = (z ^ z >>> 27) * 0x94D049BB133111EBL;
        return z ^ z >>> 31;
    }

    /**
     * Reads random bytes from the file of the operating system if there is one, because the JDK's providers take long
     * to load.
     */
    private static long seed() {
        try (InputStream random = Files.newInputStream(Path.of("/dev/urandom"))) {
            return ByteBuffer.wrap(random.readNBytes(Long.BYTES)).getLong();
        } catch (IOException | RuntimeException e) {
            return new SecureRandom().nextLong();
        }
    }
}
