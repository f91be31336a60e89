package dev.graphema.collector.alerting;

import dev.graphema.collector.alert.AlertRule;
import dev.graphema.collector.alert.AlertTest;
import dev.graphema.condition.Name;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.Window;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.text.Durations;
import dev.graphema.text.Times;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** Finds out for which groups the test of an alert is met. Immutable. */
final class Evaluation {
    private static final Duration KNOWN = Duration.ofDays(1);
    private static final int WEEKS = 4;
    private static final int DAYS = 7;
    private static final double NORMAL = 1.4826;
    private static final int DEVIATIONS = 3;

    private final EventSource source;

    Evaluation(EventSource source) {
        this.source = source;
    }

    /** Returns what was found for each group that meets the test at a moment; the group of all events is the empty text. */
    Map<String, String> met(AlertRule rule, Instant now) throws IOException {
        AlertTest test = rule.test();
        if (test instanceof AlertTest.MoreThan more) {
            Map<String, String> met = new TreeMap<>();
            counts(rule, now).forEach((group, count) -> {
                if (count > more.count()) {
                    met.put(group, events(count) + " in " + text(rule.in()));
                }
            });
            return met;
        }
        if (test instanceof AlertTest.FewerThan fewer) {
            return few(rule, now, fewer.count());
        }
        if (test instanceof AlertTest.Silence) {
            return few(rule, now, 1);
        }
        if (test instanceof AlertTest.NewValue fresh) {
            return fresh(rule, now, fresh);
        }
        return unusual(rule, now, (AlertTest.TimesUsual) test);
    }

    private Map<String, Long> counts(AlertRule rule, Instant to) throws IOException {
        return counts(rule, rule.by(), to.minus(rule.in()), to);
    }

    private Map<String, Long> counts(AlertRule rule, Name by, Instant from, Instant to) throws IOException {
        List<Name> names = by == null ? List.of() : List.of(by);
        CountTable table = QueryExecutor.answer(
                Question.where(rule.when()).during(Window.between(from, to)).ask(new Ask.Counts(names, null)), source);
        Map<String, Long> counts = new TreeMap<>();
        for (CountTable.Row row : table.rows()) {
            String group = by == null ? "" : row.values().get(0);
            if (group != null) {
                counts.put(group, row.events().count());
            }
        }
        return counts;
    }

    private Map<String, String> few(AlertRule rule, Instant now, long count) throws IOException {
        Map<String, Long> recent = counts(rule, now);
        Map<String, Long> known = counts(rule, rule.by(), now.minus(KNOWN), now);
        Map<String, String> met = new TreeMap<>();
        for (String group : known.keySet()) {
            long found = recent.getOrDefault(group, 0L);
            if (found < count) {
                met.put(group, events(found) + " in " + text(rule.in()));
            }
        }
        return met;
    }

    private Map<String, String> fresh(AlertRule rule, Instant now, AlertTest.NewValue test) throws IOException {
        Instant from = now.minus(rule.in());
        Map<String, Long> recent = counts(rule, test.of(), from, now);
        Map<String, String> met = new TreeMap<>();
        if (!recent.isEmpty()) {
            Map<String, Long> before = counts(rule, test.of(), now.minus(test.within()), from);
            recent.forEach((value, count) -> {
                if (!before.containsKey(value)) {
                    met.put(value, events(count) + " with a value of " + test.of() + " that is new");
                }
            });
        }
        return met;
    }

    private Map<String, String> unusual(AlertRule rule, Instant now, AlertTest.TimesUsual test) throws IOException {
        Map<String, Long> recent = counts(rule, now);
        recent.values().removeIf(count -> count < test.atLeast());
        Map<String, String> met = new TreeMap<>();
        if (recent.isEmpty()) {
            return met;
        }
        List<Map<String, Long>> before = before(rule, now);
        recent.forEach((group, count) -> {
            long[] usual = before.stream()
                    .mapToLong(each -> each.getOrDefault(group, 0L))
                    .toArray();
            if (usual.length == 0) {
                return; // nothing is known yet about what is usual
            }
            double median = median(usual);
            double deviation = NORMAL
                    * median(Arrays.stream(usual)
                            .map(each -> Math.round(Math.abs(each - median)))
                            .toArray());
            if (count > test.factor() * median && count > median + DEVIATIONS * deviation) {
                met.put(
                        group,
                        events(count) + " in " + text(rule.in()) + "; usual at this time: " + Math.round(median));
            }
        });
        return met;
    }

    /** Returns the counts of the same window in former weeks, or in former days if there are fewer than two of these weeks. */
    private List<Map<String, Long>> before(AlertRule rule, Instant now) throws IOException {
        Instant first = first(rule, now);
        List<Map<String, Long>> counts = new ArrayList<>();
        Duration week = Duration.ofDays(DAYS);
        boolean isLong = first != null && !first.isAfter(now.minus(rule.in()).minus(week.multipliedBy(2)));
        int most = isLong ? WEEKS : DAYS;
        Duration step = isLong ? week : Duration.ofDays(1);
        for (int i = 1; i <= most && first != null; i++) {
            Instant to = now.minus(step.multipliedBy(i));
            if (to.minus(rule.in()).isBefore(first)) {
                break;
            }
            counts.add(counts(rule, to));
        }
        return counts;
    }

    /** Returns the time of the first event of any kind in the last weeks; null for none. */
    private Instant first(AlertRule rule, Instant now) throws IOException {
        Window window = Window.between(now.minus(Duration.ofDays(DAYS * (WEEKS + 1L))), now);
        return QueryExecutor.answer(Question.all().during(window).oldest(1), source).events().stream()
                .map(event -> Times.instant(event.epochNanos()))
                .findAny()
                .orElse(null);
    }

    private static double median(long[] values) {
        long[] sorted = values.clone();
        Arrays.sort(sorted);
        int middle = sorted.length / 2;
        return sorted.length % 2 == 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2.0;
    }

    private static String events(long count) {
        return count + (count == 1 ? " event" : " events");
    }

    private static String text(Duration duration) {
        return Durations.text(duration);
    }
}
