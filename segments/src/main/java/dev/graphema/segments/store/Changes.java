package dev.graphema.segments.store;

import dev.graphema.segments.log.Disk;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/** The changes of what a store consists of. Each takes effect at once, and survives a power failure. For one thread at a time. */
final class Changes {
    private final StoreFolder folder;
    private final Disk disk;
    private final StoreOptions options;
    private final DeletionReport report;
    private final SegmentFolder segments;
    private Manifest manifest;
    private long nextSegment;
    private long deletedLines;

    Changes(StoreFolder folder, Disk disk, StoreOptions options) throws IOException {
        this.folder = folder;
        this.disk = disk;
        this.options = options;
        this.report = new DeletionReport(folder);
        this.segments = new SegmentFolder(folder, disk);
        this.manifest = ManifestFile.read(folder.path());
        this.nextSegment = manifest.nextSegment();
        report.complete(manifest.deletions());
    }

    Manifest manifest() {
        return manifest;
    }

    StoreFolder folder() {
        return folder;
    }

    StoreOptions options() {
        return options;
    }

    SegmentFolder segments() {
        return segments;
    }

    /** Returns the number of lines that were deleted. */
    long deletedLines() {
        return deletedLines;
    }

    /** Returns a number for a segment that no other one has had, unless it was never part of the store. */
    long takeNumber() {
        return nextSegment++;
    }

    /** Lets segments take the place of others. */
    void replace(List<Manifest.Entry> old, List<Manifest.Entry> instead) throws IOException {
        publish(manifest.replacing(old, instead, options.clock().instant()));
    }

    /** As above, and reports what is deleted thereby. */
    void replace(List<Manifest.Entry> old, List<Manifest.Entry> instead, Deleted deleted) throws IOException {
        Manifest.Deletion deletion = new Manifest.Deletion(
                report.lastNumber() + 1,
                options.clock().instant(),
                deleted.reason(),
                deleted.from(),
                deleted.to(),
                deleted.lines());
        publish(manifest.replacing(old, instead, options.clock().instant()).deleting(List.of(deletion)));
        deletedLines += deleted.lines();
    }

    /** Gives a segment another class. */
    void relabel(Manifest.Entry old, Manifest.Entry now) throws IOException {
        publish(manifest.relabelled(old, now));
    }

    /**
     * What is deleted.
     *
     * @param reason the rule
     * @param from the time of the earliest event
     * @param to the time of the latest one
     * @param lines the number of lines
     */
    record Deleted(String reason, long from, long to, long lines) {}

    /**
     * Lets segments take the place of the first log.
     *
     * @param log its name if it is deleted later; null if it is left
     */
    void seal(String log, List<Manifest.Entry> instead) throws IOException {
        Manifest sealed = manifest.replacing(List.of(), instead, options.clock().instant());
        publish(sealed.sealed(log, options.clock().instant()));
    }

    private void publish(Manifest next) throws IOException {
        Manifest numbered = next.nextSegment(nextSegment);
        try {
            ManifestFile.write(folder.path(), numbered, disk);
            manifest = numbered;
        } catch (IOException e) {
            manifest = ManifestFile.read(folder.path()); // it may have got its name before the failure
            throw e;
        }
        report.complete(manifest.deletions());
    }

    /**
     * Deletes the files that others replaced before a time.
     *
     * @param at all that were replaced at this time or before
     */
    void removeReplaced(Instant at) throws IOException {
        List<Manifest.Replaced> old = new ArrayList<>(manifest.replaced());
        old.removeIf(each -> each.since().isAfter(at));
        if (old.isEmpty()) {
            return;
        }
        disk.forceNames(folder.path()); // the manifest without them may only be known to the memory until now
        for (Manifest.Replaced each : old) {
            disk.delete(folder.segment(each.file()));
        }
        publish(manifest.without(old));
    }
}
