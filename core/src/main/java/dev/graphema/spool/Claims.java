package dev.graphema.spool;

import java.nio.file.Path;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/**
 * The files that this process writes. A lock tells other processes; within one, it must not even be tried: on most systems,
 * closing a file that was opened a second time gives back the lock that the first one holds.
 */
public final class Claims {
    private static final Set<Path> HELD = ConcurrentHashMap.newKeySet();

    private Claims() {}

    /** Claims a file for the caller; false when another part of this process has it. */
    public static boolean claim(Path file) {
        return HELD.add(file.toAbsolutePath().normalize());
    }

    /** Gives a file back; nothing happens when it was not claimed. */
    public static void release(Path file) {
        HELD.remove(file.toAbsolutePath().normalize());
    }
}
