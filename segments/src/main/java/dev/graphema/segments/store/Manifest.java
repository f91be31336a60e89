package dev.graphema.segments.store;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/**
 * What a store consists of. Immutable: each change is a new one, which replaces the one before at once.
 *
 * @param number the number of changes
 * @param nextSegment the number of the segment that is written next
 * @param firstLog the number of the first log that counts; the events of all logs before it are in segments
 * @param segments the segments
 * @param replaced files that do not count any more, but may still be read by a question that began before
 * @param deletions what the last change deleted
 */
record Manifest(
        long number,
        long nextSegment,
        long firstLog,
        List<Entry> segments,
        List<Replaced> replaced,
        List<Deletion> deletions) {

    static final Manifest EMPTY = new Manifest(0, 1, 1, List.of(), List.of(), List.of());

    Manifest {
        segments = List.copyOf(segments);
        replaced = List.copyOf(replaced);
        deletions = List.copyOf(deletions);
    }

    /**
     * A segment.
     *
     * @param file its name
     * @param rule the index of the retention rule of its events; -1 for none
     * @param rules the retention rules when that was decided, see {@link StoreRules#retentionKey}
     * @param from the time of its earliest event, in nanoseconds since 1970
     * @param to the time of its latest event
     * @param lines the number of its lines
     * @param bytes its size
     */
    record Entry(String file, int rule, String rules, long from, long to, long lines, long bytes) {}

    /**
     * A file that does not count any more.
     *
     * @param since since when
     */
    record Replaced(String file, Instant since) {}

    /**
     * A deletion.
     *
     * @param number its number, from 1
     * @param at when
     * @param reason the rule, or what was asked for
     * @param from the time of the earliest deleted event, in nanoseconds since 1970
     * @param to the time of the latest one
     * @param lines the number of deleted lines
     */
    record Deletion(long number, Instant at, String reason, long from, long to, long lines) {}

    /** Returns the next manifest, in which segments replace others, which are kept for a while. */
    Manifest replacing(List<Entry> old, List<Entry> instead, Instant now) {
        List<Entry> all = new ArrayList<>(segments);
        all.removeAll(old);
        all.addAll(instead);
        List<Replaced> gone = new ArrayList<>(replaced);
        old.forEach(each -> gone.add(new Replaced(each.file(), now)));
        return new Manifest(number + 1, nextSegment, firstLog, all, gone, List.of());
    }

    Manifest relabelled(Entry old, Entry instead) {
        List<Entry> all = new ArrayList<>(segments);
        all.set(all.indexOf(old), instead);
        return new Manifest(number + 1, nextSegment, firstLog, all, replaced, List.of());
    }

    /**
     * Returns this one after the sealing of its first log.
     *
     * @param log its name if it is deleted later; null if it is left
     */
    Manifest sealed(String log, Instant now) {
        List<Replaced> gone = new ArrayList<>(replaced);
        if (log != null) {
            gone.add(new Replaced(log, now));
        }
        return new Manifest(number, nextSegment, firstLog + 1, segments, gone, deletions);
    }

    Manifest nextSegment(long next) {
        return new Manifest(number, next, firstLog, segments, replaced, deletions);
    }

    Manifest deleting(List<Deletion> deleted) {
        return new Manifest(number, nextSegment, firstLog, segments, replaced, deleted);
    }

    Manifest without(List<Replaced> removed) {
        List<Replaced> left = new ArrayList<>(replaced);
        left.removeAll(removed);
        return new Manifest(number + 1, nextSegment, firstLog, segments, left, List.of());
    }
}
