package dev.graphema.cli.output;

import dev.graphema.event.Event;
import dev.graphema.query.answer.TimeMap;
import dev.graphema.text.Durations;
import dev.graphema.text.Times;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** A time map as an SVG image: positions, as values of a template. It has the form of that of the page of the collector. */
final class MapChart {
    private static final int WIDTH = 1150;
    private static final int TOP = 34;
    private static final int HEIGHT = 18;
    private static final int GAP = 2;
    private static final int LINE = 34;
    private static final int AXIS = 18;
    private static final int SHADES = 5;
    private static final double CHARACTER = 7;
    private static final int BETWEEN_TIMES = 80;

    private final TimeMap map;
    private final double left;
    private final double wide;
    private final int bottom;

    private MapChart(TimeMap map) {
        this.map = map;
        this.left = 12
                + CHARACTER
                        * map.rows().stream()
                                .mapToInt(row -> MapText.label(row).length())
                                .max()
                                .orElse(3);
        this.wide = (WIDTH - left - 8) / map.begins().size();
        this.bottom = TOP + map.rows().size() * (HEIGHT + GAP);
    }

    /**
     * Returns the values of the template.
     *
     * @param marks events that are marked on the axis, oldest first
     */
    static Map<String, Object> of(TimeMap map, List<Event> marks, ZoneId zone) {
        MapChart chart = new MapChart(map);
        List<Map<String, Object>> rows = new ArrayList<>();
        for (int i = 0; i < map.rows().size(); i++) {
            rows.add(chart.row(map.rows().get(i), TOP + i * (HEIGHT + GAP)));
        }
        return Map.of(
                "step", Durations.text(map.step()),
                "width", WIDTH,
                "height", chart.bottom + LINE + AXIS,
                "left", tenths(chart.left - 8),
                "rows", rows,
                "line", chart.line(),
                "base", chart.bottom + LINE,
                "spikes", chart.spikes(),
                "marks", marks.stream().map(chart::mark).toList(),
                "times", chart.times(zone));
    }

    private Map<String, Object> row(TimeMap.Row row, int top) {
        long most = row.counts().stream().mapToLong(Long::longValue).max().orElse(1);
        StringBuilder[] shades = new StringBuilder[SHADES];
        for (int i = 0; i < row.counts().size(); i++) {
            long count = row.counts().get(i);
            if (count > 0) {
                int shade = (int) Math.min(SHADES - 1, SHADES * count / Math.max(1, most));
                shades[shade] = shades[shade] == null ? new StringBuilder() : shades[shade];
                box(shades[shade], x(i), top, Math.max(0.8, wide - 1), HEIGHT);
            }
        }
        List<Map<String, Object>> paths = new ArrayList<>();
        for (int shade = 0; shade < SHADES; shade++) {
            if (shades[shade] != null) {
                paths.add(Map.of("style", "d" + shade, "path", shades[shade].toString()));
            }
        }
        paths.add(Map.of("style", "warn", "path", bars(row.warnings(), top, 0.5 * wide - barWidth())));
        paths.add(Map.of("style", "bad", "path", bars(row.errors(), top, 0.5 * wide)));
        return Map.of("label", MapText.label(row), "y", top + 13, "paths", paths);
    }

    private double x(int step) {
        return left + step * wide;
    }

    private double barWidth() {
        return Math.max(1.4, Math.min(0.42 * wide, 7));
    }

    private String bars(List<Long> counts, int top, double inset) {
        long most = counts.stream().mapToLong(Long::longValue).max().orElse(1);
        StringBuilder path = new StringBuilder();
        for (int i = 0; i < counts.size(); i++) {
            if (counts.get(i) > 0) {
                double high = 4 + (HEIGHT - 6) * Math.sqrt((double) counts.get(i) / most);
                box(path, x(i) + inset, top + HEIGHT - high, barWidth(), high);
            }
        }
        return path.toString();
    }

    private static void box(StringBuilder path, double x, double y, double width, double height) {
        path.append(String.format(Locale.ROOT, "M%.1f %.1fh%.1fv%.1fh%.1fz", x, y, width, height, -width));
    }

    private double y(long count) {
        long most = map.all().counts().stream().mapToLong(Long::longValue).max().orElse(1);
        return bottom + LINE - (LINE - 12.0) * count / Math.max(1, most);
    }

    private String line() {
        StringBuilder path = new StringBuilder();
        for (int i = 0; i < map.begins().size(); i++) {
            path.append(String.format(
                    Locale.ROOT,
                    "%s%.1f %.1f",
                    i == 0 ? "M" : "L",
                    x(i) + wide / 2,
                    y(map.all().counts().get(i))));
        }
        return path.toString();
    }

    private List<Map<String, Object>> spikes() {
        List<Map<String, Object>> spikes = new ArrayList<>();
        for (int i = 0; i < map.spikes().size(); i++) {
            if (map.spikes().get(i)) {
                spikes.add(Map.of(
                        "x", tenths(x(i) + wide / 2 - 4),
                        "y", tenths(y(map.all().counts().get(i)) - 2)));
            }
        }
        return spikes;
    }

    private Map<String, Object> mark(Event mark) {
        double x = left
                + (WIDTH - left - 8)
                        * (mark.epochNanos() - map.begins().get(0))
                        / (MapText.end(map) - map.begins().get(0));
        String text = MapText.text(mark);
        boolean isLeft = x + text.length() * CHARACTER > WIDTH;
        return Map.of(
                "x",
                tenths(x),
                "textX",
                tenths(isLeft ? x - 4 : x + 4),
                "anchor",
                isLeft ? "end" : "start",
                "top",
                TOP - 8,
                "bottom",
                bottom + LINE,
                "text",
                text);
    }

    private List<Map<String, Object>> times(ZoneId zone) {
        DateTimeFormatter form =
                DateTimeFormatter.ofPattern(map.step().toNanos() < 60_000_000_000L ? "HH:mm:ss" : "HH:mm");
        int every = (int) Math.max(1, Math.ceil(BETWEEN_TIMES / wide));
        List<Map<String, Object>> times = new ArrayList<>();
        for (int i = 0; x(i) < WIDTH - BETWEEN_TIMES / 2.0; i += every) {
            times.add(Map.of(
                    "x", tenths(x(i)),
                    "y", bottom + LINE + AXIS - 4,
                    "time", form.format(Times.instant(map.begins().get(i)).atZone(zone))));
        }
        return times;
    }

    /** Returns a length with one decimal. */
    static String tenths(double length) {
        return String.format(Locale.ROOT, "%.1f", length);
    }
}
