package dev.graphema.cli.output;

import dev.graphema.query.answer.Timeline;
import dev.graphema.text.Durations;
import dev.graphema.text.Times;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** A timeline as bars of an SVG image: their positions, as values of a template. */
final class TimelineChart {
    private static final int WIDTH = 1150;
    private static final int HEIGHT = 180;
    private static final int LEFT = 50;
    private static final int BASE = HEIGHT + 15;
    private static final int LABELS = 12;

    private final Timeline timeline;
    private final double wide;
    private final long most;
    private final List<Map<String, Object>> bars = new ArrayList<>();
    private final List<Map<String, Object>> spikes = new ArrayList<>();
    private final List<Map<String, Object>> times = new ArrayList<>();

    private TimelineChart(Timeline timeline) {
        this.timeline = timeline;
        this.wide = (double) (WIDTH - LEFT - 10) / timeline.steps().size();
        this.most =
                timeline.steps().stream().mapToLong(Timeline.Step::count).max().orElse(1);
    }

    /** Returns the values of the template. */
    static Map<String, Object> of(Timeline timeline, ZoneId zone) {
        TimelineChart chart = new TimelineChart(timeline);
        DateTimeFormatter form =
                DateTimeFormatter.ofPattern(timeline.step().toNanos() < 60_000_000_000L ? "HH:mm:ss" : "HH:mm");
        int every = Math.max(1, timeline.steps().size() / LABELS);
        for (int i = 0; i < timeline.steps().size(); i++) {
            double x = LEFT + i * chart.wide;
            chart.step(timeline.steps().get(i), x);
            if (i % every == 0) {
                String time = form.format(
                        Times.instant(timeline.steps().get(i).from()).atZone(zone));
                chart.times.add(Map.of("x", tenths(x), "y", HEIGHT + 30, "time", time));
            }
        }
        return Map.of(
                "step",
                Durations.text(timeline.step()),
                "keys",
                keys(timeline),
                "hasSpike",
                !chart.spikes.isEmpty(),
                "width",
                WIDTH,
                "height",
                HEIGHT + 40,
                "base",
                BASE,
                "most",
                Counted.number(chart.most),
                "bars",
                chart.bars,
                "spikes",
                chart.spikes,
                "times",
                chart.times);
    }

    private static List<Map<String, Object>> keys(Timeline timeline) {
        List<Map<String, Object>> keys = new ArrayList<>();
        for (int i = 0; i < timeline.values().size(); i++) {
            keys.add(Map.of("style", "s" + i, "value", timeline.values().get(i)));
        }
        keys.add(Map.of("style", "rest", "value", "others"));
        return keys;
    }

    /** Adds the bars of a step, one above the other. */
    private void step(Timeline.Step step, double x) {
        double y = BASE;
        long shown = 0;
        for (int i = 0; i <= step.byValue().size(); i++) {
            boolean isValue = i < step.byValue().size();
            long part = isValue ? step.byValue().get(i) : step.count() - shown;
            shown += part;
            double high = (double) part / most * HEIGHT;
            y -= high;
            if (part > 0) {
                bars.add(Map.of(
                        "style", isValue ? "s" + i : "rest",
                        "x", tenths(x),
                        "y", tenths(y),
                        "width", tenths(Math.max(1, wide - 1.5)),
                        "height", tenths(high)));
            }
        }
        if (step.isSpike()) {
            spikes.add(Map.of("x", tenths(x), "y", tenths(Math.max(10, y - 3))));
        }
    }

    /** Returns a length with one decimal. */
    static String tenths(double length) {
        return String.format(Locale.ROOT, "%.1f", length);
    }
}
