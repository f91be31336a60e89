package dev.graphema.segments.store;

import dev.graphema.segments.file.SegmentException;
import dev.graphema.segments.log.LogLines;
import dev.graphema.text.Times;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.LongSupplier;

/** Seals complete logs, and merges small segments. For one thread at a time. */
final class Upkeep {
    /** A segment with fewer lines is merged with others of its period. */
    private static final long[] SIZES = {1 << 17, 1 << 20};

    /** How many segments of a size are merged, which writes each line once per size. */
    private static final int FEWEST_MERGED = 8;

    private static final int MOST_MERGED = 32;

    /** A period that ended this long ago gets few more events, so its small segments are merged, however few. */
    private static final Duration LATE = Duration.ofHours(2);

    private final Changes changes;

    /** Segments that could not be merged because they are damaged. */
    private final Set<String> unmergeable = new HashSet<>();

    Upkeep(Changes changes) {
        this.changes = changes;
    }

    /**
     * Seals logs.
     *
     * @param current the number of the log that is not complete yet
     */
    void seal(long current, StoreRules rules) throws IOException {
        while (changes.manifest().firstLog() < current) {
            seal(changes.folder().log(changes.manifest().firstLog()), rules);
        }
    }

    private void seal(Path log, StoreRules rules) throws IOException {
        if (!Files.exists(log)) {
            changes.options().error().accept(log + " is missing: its events are lost");
            changes.seal(null, List.of());
            return;
        }
        List<String> damage = new ArrayList<>();
        byte[] lines;
        try (LogLines in = new LogLines(log, 0, damage::add)) {
            lines = in.readAllBytes();
        }
        List<Manifest.Entry> segments = lines.length == 0
                ? List.of()
                : sorted(lines, rules)
                        .writeTo(changes.segments(), rules::hoursOfPeriod, rules.retentionKey(), changes::takeNumber);
        if (damage.isEmpty()) {
            changes.seal(log.getFileName().toString(), segments);
        } else {
            damage.forEach(each -> changes.options().error().accept(log + ": " + each));
            changes.seal(null, segments);
            changes.options().error().accept(log + " is left for inspection, and is not read any more");
        }
    }

    private EventSorter sorted(byte[] lines, StoreRules rules) throws IOException {
        return new EventSorter(lines, rules.needed(), rules::ruleOf, rules.ruleOfOthers(), nanos(now()));
    }

    private Instant now() {
        return changes.options().clock().instant();
    }

    private static long nanos(Instant time) {
        return Times.epochNanos(time);
    }

    /** The segments of one class and period, which may be merged. */
    private record Period(int rule, String rules, long period) {}

    /**
     * Merges small segments. That can take long, so that logs which become complete meanwhile are sealed: questions read logs as lines.
     *
     * @param current returns the number of the log that is not complete yet
     */
    void merge(StoreRules rules, LongSupplier current) throws IOException {
        List<Manifest.Entry> next;
        while ((next = mergeable(rules)) != null) {
            merge(next, () -> seal(current.getAsLong(), rules));
        }
    }

    private List<Manifest.Entry> mergeable(StoreRules rules) {
        Map<Period, List<Manifest.Entry>> periods = new LinkedHashMap<>();
        String key = rules.retentionKey();
        for (Manifest.Entry each : changes.manifest().segments()) {
            boolean isSorted =
                    each.rules().equals(key) && each.rule() < rules.retention().size();
            if (isSorted && !unmergeable.contains(each.file())) {
                long nanos = Duration.ofHours(rules.hoursOfPeriod(each.rule())).toNanos();
                Period period = new Period(each.rule(), each.rules(), Math.floorDiv(each.from(), nanos));
                periods.computeIfAbsent(period, any -> new ArrayList<>()).add(each);
            }
        }
        for (Map.Entry<Period, List<Manifest.Entry>> each : periods.entrySet()) {
            long nanos =
                    Duration.ofHours(rules.hoursOfPeriod(each.getKey().rule())).toNanos();
            boolean isOver = (each.getKey().period() + 1) * nanos < nanos(now().minus(LATE));
            List<Manifest.Entry> found = mergeable(each.getValue(), isOver);
            if (found != null) {
                return found;
            }
        }
        return null;
    }

    private static List<Manifest.Entry> mergeable(List<Manifest.Entry> ofPeriod, boolean isOver) {
        long atLeast = 0;
        for (long size : SIZES) {
            long from = atLeast;
            List<Manifest.Entry> small = ofPeriod.stream()
                    .filter(each -> each.lines() >= from && each.lines() < size)
                    .sorted(Comparator.comparingLong(Manifest.Entry::from))
                    .limit(MOST_MERGED)
                    .toList();
            if (small.size() >= (isOver && atLeast == 0 ? 2 : FEWEST_MERGED)) {
                return small;
            }
            atLeast = size;
        }
        return null;
    }

    private void merge(List<Manifest.Entry> small, SegmentFolder.Meanwhile meanwhile) throws IOException {
        SegmentFolder segments = changes.segments();
        Manifest.Entry first = small.get(0);
        Manifest.Entry merged;
        try {
            merged = segments.write(
                    changes.takeNumber(), first.rule(), first.rules(), segments.merged(small, meanwhile));
        } catch (SegmentException e) {
            small.forEach(each -> unmergeable.add(each.file()));
            changes.options().error().accept("small segments are not merged: " + e.getMessage());
            return;
        }
        changes.replace(small, List.of(merged));
    }
}
