package dev.graphema.segments.store;

import dev.graphema.query.row.EventRow;
import dev.graphema.query.row.Projection;
import dev.graphema.segments.file.SegmentException;
import dev.graphema.text.Durations;
import dev.graphema.text.Times;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.ToIntFunction;

/** Applies the rules of a store to its segments. For one thread at a time. */
final class Retention {
    /** The class of events that are only kept because of a legal hold. */
    static final int HELD = -2;

    private final Changes changes;
    private final StoreRules rules;
    private final long now;

    Retention(Changes changes, StoreRules rules) {
        this.changes = changes;
        this.rules = rules;
        this.now = Times.epochNanos(changes.options().clock().instant());
    }

    /** Deletes what the rules do not keep. Segments that were written under other rules are sorted by these first. */
    void apply() throws IOException {
        for (Manifest.Entry each : changes.manifest().segments()) {
            boolean isOfOtherRules = each.rule() == HELD
                    ? !each.rules().equals(rules.holdsKey())
                    : !each.rules().equals(rules.retentionKey());
            if (isOfOtherRules) {
                unlessDamaged(each, () -> sortAgain(each));
            }
        }
        for (int rule = 0; rule < rules.retention().size(); rule++) {
            deleteOld(rule);
            deleteSurplus(rule);
        }
    }

    private interface Change {
        void run() throws IOException;
    }

    /** Leaves a segment unchanged if it would have to be read and is damaged. */
    private void unlessDamaged(Manifest.Entry segment, Change change) throws IOException {
        try {
            change.run();
        } catch (SegmentException e) {
            changes.options().error().accept("the rules are not applied to " + segment.file() + ": " + e.getMessage());
        }
    }

    private void sortAgain(Manifest.Entry segment) throws IOException {
        Set<Integer> classes = new HashSet<>();
        changes.segments().pieces(segment, lines -> sorted(lines).classes().forEach(classes::add));
        List<Manifest.Entry> instead = new ArrayList<>();
        if (classes.size() == 1) {
            instead.add(new Manifest.Entry(
                    segment.file(),
                    classes.iterator().next(),
                    rules.retentionKey(),
                    segment.from(),
                    segment.to(),
                    segment.lines(),
                    segment.bytes()));
            changes.relabel(segment, instead.get(0));
            return;
        }
        changes.segments().pieces(segment, lines -> instead.addAll(write(sorted(lines), rules.retentionKey())));
        changes.replace(List.of(segment), instead);
    }

    private EventSorter sorted(byte[] lines) throws IOException {
        return sorted(lines, rules.needed(), rules::ruleOf, rules.ruleOfOthers());
    }

    private EventSorter sorted(byte[] lines, Projection needed, ToIntFunction<EventRow> classOf, int otherwise)
            throws IOException {
        return new EventSorter(lines, needed, classOf, otherwise, now);
    }

    private List<Manifest.Entry> write(EventSorter sorted, String key) throws IOException {
        return sorted.writeTo(changes.segments(), rules::hoursOfPeriod, key, changes::takeNumber);
    }

    private void deleteOld(int rule) throws IOException {
        RetentionRule it = rules.retention().get(rule);
        if (it.keep() == null) {
            return;
        }
        for (Manifest.Entry each : ofRule(rule)) {
            if (each.to() < now - it.keep().toNanos()) {
                unlessDamaged(each, () -> delete(each, rules.name(rule) + ", keep: " + Durations.text(it.keep())));
            }
        }
    }

    private void deleteSurplus(int rule) throws IOException {
        RetentionRule it = rules.retention().get(rule);
        List<Manifest.Entry> oldestFirst = ofRule(rule);
        long bytes = oldestFirst.stream().mapToLong(Manifest.Entry::bytes).sum();
        for (Manifest.Entry each : oldestFirst) {
            if (bytes <= it.total()) {
                return;
            }
            bytes -= each.bytes();
            unlessDamaged(each, () -> delete(each, rules.name(rule) + ", total: " + it.total() + " bytes"));
        }
    }

    private List<Manifest.Entry> ofRule(int rule) {
        return changes.manifest().segments().stream()
                .filter(each -> each.rule() == rule && each.rules().equals(rules.retentionKey()))
                .sorted(Comparator.comparingLong(Manifest.Entry::to))
                .toList();
    }

    /** Deletes the events of a segment except those that a legal hold keeps. */
    private void delete(Manifest.Entry segment, String reason) throws IOException {
        List<Manifest.Entry> kept = new ArrayList<>();
        List<LegalHold> holds = rules.holds().stream()
                .filter(hold ->
                        hold.during().from() <= segment.to() && hold.during().to() >= segment.from())
                .toList();
        if (!holds.isEmpty()) {
            Projection needed = Projection.of(List.of());
            for (LegalHold hold : holds) {
                needed = needed.and(Projection.of(hold.when()));
            }
            Projection all = needed;
            changes.segments()
                    .pieces(
                            segment,
                            lines -> kept.addAll(write(
                                    sorted(lines, all, row -> classByHold(row, holds), EventSorter.DROPPED),
                                    rules.holdsKey())));
        }
        long lines =
                segment.lines() - kept.stream().mapToLong(Manifest.Entry::lines).sum();
        if (lines == 0) {
            changes.replace(List.of(segment), kept);
        } else {
            changes.replace(List.of(segment), kept, new Changes.Deleted(reason, segment.from(), segment.to(), lines));
        }
    }

    private static int classByHold(EventRow row, List<LegalHold> holds) {
        for (LegalHold hold : holds) {
            boolean isHeld = hold.during().contains(row.time())
                    && (hold.when().isEverything() || hold.when().matches(row.event()));
            if (isHeld) {
                return HELD;
            }
        }
        return EventSorter.DROPPED;
    }
}
