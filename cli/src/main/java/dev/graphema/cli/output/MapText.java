package dev.graphema.cli.output;

import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.format.ClockText;
import dev.graphema.query.answer.TimeMap;
import dev.graphema.text.Durations;
import dev.graphema.text.Escapes;
import dev.graphema.text.Utf8Buffer;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.stream.Collectors;

/**
 * A time map as text: a row of shades for each source, below it marks for warnings and errors, and above all rows marks for what
 * happened, such as releases.
 */
public final class MapText {
    private static final String CHANGED = "settings changed";

    /** The condition for events that are marked, unless another one is given: starts of releases, and changes of settings. */
    public static final String MARKS = "(release exists and message has start) or message = \"" + CHANGED + "\"";

    /** The widest and the narrowest map, in characters. */
    public static final int WIDEST = 200;

    public static final int NARROWEST = 80;

    private static final String[] SHADES = {"·", "░", "▒", "▓", "█"};
    private static final int LONGEST_LABEL = 24;
    private static final int MANY_ERRORS = 10;
    private static final int BETWEEN_TIMES = 10;
    private static final long MINUTE_NANOS = 60_000_000_000L;

    private final TimeMap map;
    private final List<Event> marks;
    private final Console console;
    private final int labelWidth;
    private final Utf8Buffer to = new Utf8Buffer(8192);

    private MapText(TimeMap map, List<Event> marks, Console console) {
        this.map = map;
        this.marks = marks;
        this.console = console;
        this.labelWidth =
                map.rows().stream().mapToInt(row -> label(row).length()).max().orElse(0);
    }

    /** Returns the number of steps for which there is room. */
    public static int steps(int width) {
        return Math.max(NARROWEST, Math.min(WIDEST, width)) - LONGEST_LABEL - 2;
    }

    /**
     * Prints a map.
     *
     * @param marks events that are marked on the axis, oldest first
     */
    public static void print(TimeMap map, List<Event> marks, Console console) {
        console.print(toBuffer(map, marks, console));
    }

    /** Returns the lines of a map for this console. */
    static Utf8Buffer toBuffer(TimeMap map, List<Event> marks, Console console) {
        MapText text = new MapText(map, marks, console);
        text.marks();
        map.rows().forEach(text::row);
        text.spikes();
        text.axis();
        return text.to;
    }

    /** Returns the values of a source; an instance whose name begins with its service needs no other. */
    static String label(TimeMap.Row row) {
        List<String> values = row.values().stream()
                .filter(Objects::nonNull)
                .map(Escapes::visible)
                .toList();
        boolean isEnough = values.size() == 2 && values.get(1).startsWith(values.get(0));
        String label = values.isEmpty() ? "(none)" : isEnough ? values.get(1) : String.join(" ", values);
        return label.length() > LONGEST_LABEL ? label.substring(0, LONGEST_LABEL - 1) + "…" : label;
    }

    private int step(long epochNanos) {
        int step = 0;
        while (step + 1 < map.begins().size() && map.begins().get(step + 1) <= epochNanos) {
            step++;
        }
        return step;
    }

    /** A line for each mark whose text would cover another one. */
    private void marks() {
        List<StringBuilder> lines = new ArrayList<>();
        for (Event mark : marks) {
            String text = "▾ " + text(mark);
            int at = labelWidth + 2 + step(mark.epochNanos());
            boolean isLeft = at + text.length() > labelWidth + 2 + map.begins().size() && text.length() <= at;
            int begin = isLeft ? at - text.length() + 1 : at;
            String placed = isLeft ? text(mark) + " ▾" : text;
            StringBuilder line = lines.stream()
                    .filter(each -> each.length() < begin)
                    .findFirst()
                    .orElseGet(() -> {
                        StringBuilder next = new StringBuilder();
                        lines.add(next);
                        return next;
                    });
            line.append(" ".repeat(begin - line.length())).append(placed);
        }
        for (StringBuilder line : lines) {
            console.paint().faint(to, line.toString());
            to.ascii('\n');
        }
    }

    static String text(Event mark) {
        String source = mark.instance() != null ? mark.instance() : Objects.requireNonNullElse(mark.service(), "");
        Object release = mark.fields().get("release");
        return Escapes.visible(
                source + " " + (release == null || CHANGED.equals(mark.message()) ? mark.message() : release));
    }

    private void row(TimeMap.Row row) {
        String label = label(row);
        long most = row.counts().stream().mapToLong(Long::longValue).max().orElse(1);
        to.spaces(labelWidth - label.length()).text(label).ascii("  ");
        for (long count : row.counts()) {
            to.text(count == 0 ? " " : SHADES[(int) ((SHADES.length - 1) * count / most)]);
        }
        to.ascii('\n');
        boolean hasMarks = row.errors().stream().anyMatch(count -> count > 0)
                || row.warnings().stream().anyMatch(count -> count > 0);
        if (hasMarks) {
            to.spaces(labelWidth + 2);
            for (int i = 0; i < row.counts().size(); i++) {
                problem(row.errors().get(i), row.warnings().get(i));
            }
            to.ascii('\n');
        }
    }

    private void problem(long errors, long warnings) {
        if (errors > 0) {
            console.paint().of(Level.ERROR, to, errors >= MANY_ERRORS ? "X" : "x");
        } else if (warnings > 0) {
            console.paint().of(Level.WARN, to, "w");
        } else {
            to.ascii(' ');
        }
    }

    private void spikes() {
        if (map.spikes().contains(true)) {
            to.text(map.spikes().stream()
                    .map(isSpike -> isSpike ? "▲" : " ")
                    .collect(Collectors.joining("", " ".repeat(labelWidth + 2), "\n")));
        }
    }

    private void axis() {
        ClockText clock = ClockText.timeOfDay(console.zone());
        int length = map.step().toNanos() % MINUTE_NANOS == 0 ? "07:31".length() : "07:31:02".length();
        StringBuilder axis = new StringBuilder(" ".repeat(labelWidth + 2));
        for (int i = 0; i + length <= map.begins().size(); i += BETWEEN_TIMES) {
            axis.append(clock.text(map.begins().get(i)), 0, length).append(" ".repeat(BETWEEN_TIMES - length));
        }
        console.paint().faint(to, axis.toString().stripTrailing());
        to.ascii('\n');
        long first = map.begins().get(0);
        console.paint()
                .faint(
                        to,
                        EventPrinter.day(first, console.zone()) + ", a column is " + Durations.text(map.step())
                                + "; shades: events, relative to each row's most; w warnings, x errors, X "
                                + MANY_ERRORS + " or more" + (map.spikes().contains(true) ? "; ▲ spike of all" : ""));
        to.ascii('\n');
    }
}
