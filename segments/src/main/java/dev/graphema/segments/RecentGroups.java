package dev.graphema.segments;

import dev.graphema.segments.file.Directory;
import java.io.IOException;

/** The groups from which complete events were read last, so that few are in memory. Safe to share between threads. */
final class RecentGroups {
    private static final int MOST = 8;

    private final Directory.Group[] groups = new Directory.Group[MOST];
    private final GroupReader[] readers = new GroupReader[MOST];
    private int next;

    /** Reads a group. */
    @FunctionalInterface
    interface Source {
        GroupReader read() throws IOException;
    }

    /** Returns the line of a group. */
    synchronized byte[] line(Directory.Group group, int line, Source source) throws IOException {
        GroupReader reader = reader(group, source);
        reader.moveTo(line);
        return reader.line(reader.shape(line));
    }

    private GroupReader reader(Directory.Group group, Source source) throws IOException {
        for (int i = 0; i < MOST; i++) {
            if (groups[i] == group) {
                return readers[i];
            }
        }
        groups[next] = null;
        readers[next] = source.read();
        groups[next] = group;
        GroupReader reader = readers[next];
        next = (next + 1) % MOST;
        return reader;
    }
}
