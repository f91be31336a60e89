package dev.graphema.spool;

import java.nio.file.Path;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/**
 * The files that this process writes. File locks work between processes; within one, a lock must not even be tried,
 * because on most systems closing a second channel of a file releases the lock of the first one.
 */
public final class Claims {
    private static final Set<Path> HELD = ConcurrentHashMap.newKeySet();

    private Claims() {}

    /**
     * Claims a file for the caller.
     *
     * @return false if another part of this process has it
     */
    public static boolean claim(Path file) {
        return HELD.add(file.toAbsolutePath().normalize());
    }

    /** Releases a file; has no effect if it was not claimed. */
    public static void release(Path file) {
        HELD.remove(file.toAbsolutePath().normalize());
    }
}
