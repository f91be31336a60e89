package dev.graphema.cli.output;

import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.event.Level;
import dev.graphema.query.answer.Trail;
import dev.graphema.terminal.Paint;
import dev.graphema.text.Durations;
import dev.graphema.text.Escapes;
import dev.graphema.text.Utf8Buffer;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Formats a trail: its summary, the first failure, and the operations as a tree with bars for their times. */
public final class TrailText {
    private static final int USUAL_WIDTH = 120;
    private static final int WHERE_WIDTH = 9;
    private static final int TOOK_WIDTH = 8;

    private final Trail trail;
    private final Paint paint;
    private final int nameWidth;
    private final int barWidth;
    private final Map<String, Duration> ahead;
    private final long start;
    private final long length;
    private final Utf8Buffer to = new Utf8Buffer(4096);

    public TrailText(Trail trail, Console console) {
        this.trail = trail;
        this.paint = console.paint();
        int width = console.width() == 0 ? USUAL_WIDTH : Math.max(60, console.width());
        int longest = rows(trail.roots(), 0).stream()
                .mapToInt(row -> row.label.length())
                .max()
                .orElse(9);
        int free = width - WHERE_WIDTH - TOOK_WIDTH - 10; // gaps, and the mark of a failure
        this.nameWidth = Math.max(9, Math.min(longest, free - 16));
        this.barWidth = Math.min(60, free - nameWidth);
        this.ahead = trail.clocksAhead();
        List<Row> all = rows(trail.roots(), 0);
        this.start = all.stream().mapToLong(row -> start(row.span)).min().orElse(trail.start());
        long end = all.stream().mapToLong(row -> end(row.span)).max().orElse(trail.end());
        this.length = Math.max(1, end - start);
    }

    public Utf8Buffer toBuffer() {
        head();
        firstFailure();
        gap();
        clocks();
        to.ascii('\n');
        operations();
        to.ascii('\n');
        return to;
    }

    private void head() {
        boolean isTrace = trail.name().indexOf(' ') < 0;
        to.ascii(isTrace ? "trace " : "").text(Escapes.visible(trail.name())).ascii(": ");
        to.text(Counted.of(trail.events().size(), "event")).ascii(", ");
        to.text(Durations.text(Duration.ofNanos(length))).ascii(", ");
        to.text(Counted.of(trail.services().size(), "service"));
        to.ascii(" (")
                .text(Escapes.visible(String.join(", ", trail.services())))
                .ascii(")\n");
    }

    private void firstFailure() {
        trail.firstFailure().ifPresent(event -> {
            Failure failure = event.failure();
            to.ascii("failed first: ");
            paint.of(Level.ERROR, to, failure.type());
            if (failure.message() != null) {
                to.ascii(": ");
                Escapes.visible(failure.message(), to);
            }
            to.ascii("\n  in ").text(Escapes.visible(where(event))).ascii(", \"");
            to.text(Escapes.visible(String.valueOf(event.message()))).ascii("\"");
            if (!failure.frames().isEmpty()) {
                to.ascii(", at ").text(Escapes.visible(failure.frames().get(0).toString()));
            }
            to.ascii('\n');
        });
    }

    /** Reports the longest time without events, if it is a large part of the whole. */
    private void gap() {
        if (!ahead.isEmpty()) {
            return; // between events by different clocks, a gap has no meaning
        }
        trail.longestGap()
                .filter(gap -> gap.length().toNanos() * 4 > length)
                .ifPresent(gap -> to.ascii("no events for ")
                        .text(Durations.text(gap.length()))
                        .text(" between \""
                                + Escapes.visible(String.valueOf(gap.before().message())) + "\" in "
                                + Escapes.visible(where(gap.before())) + " and \""
                                + Escapes.visible(String.valueOf(gap.after().message())) + "\" in "
                                + Escapes.visible(where(gap.after())))
                        .ascii('\n'));
    }

    private void clocks() {
        String root = trail.roots().isEmpty() ? "" : trail.roots().get(0).where();
        ahead.forEach((where, by) -> to.text("clocks differ: that of "
                        + Escapes.visible(by.isNegative() ? root : where) + " is about "
                        + Durations.text(rounded(by.abs())) + " ahead of that of "
                        + Escapes.visible(by.isNegative() ? where : root)
                        + "; the bars below allow for that, the times of the events do not")
                .ascii('\n'));
    }

    private static Duration rounded(Duration by) {
        return by.getSeconds() < 1 ? by : Duration.ofSeconds(by.plusMillis(500).getSeconds());
    }

    private void operations() {
        cell("operation", nameWidth);
        cell("where", WHERE_WIDTH);
        to.spaces(TOOK_WIDTH - 4).ascii("took  ");
        String end = Durations.text(Duration.ofNanos(length));
        to.ascii('0').spaces(Math.max(1, barWidth - 1 - end.length())).text(end).ascii('\n');
        for (Row row : rows(trail.roots(), 0)) {
            operation(row);
        }
    }

    private void operation(Row row) {
        Trail.Span span = row.span;
        cell(row.label, nameWidth);
        cell(where(span.any()), WHERE_WIDTH);
        String took = span.elapsed() == null ? "not ended" : Durations.text(span.elapsed());
        to.spaces(TOOK_WIDTH - took.length()).text(took).ascii("  ");
        int from = (int) ((start(span) - start) * barWidth / length);
        int until =
                span.elapsed() == null ? from + 1 : (int) Math.ceil((end(span) - start) * (double) barWidth / length);
        from = Math.max(0, Math.min(from, barWidth - 1));
        until = Math.max(from + 1, Math.min(until, barWidth));
        to.spaces(from);
        String bar = (span.failed() ? "▒" : "█").repeat(until - from);
        if (span.failed()) {
            paint.of(Level.ERROR, to, bar);
            to.spaces(barWidth - until).ascii("  ");
            paint.of(Level.ERROR, to, "FAILED");
        } else {
            to.text(bar);
        }
        to.ascii('\n');
    }

    /** Returns the time by the clock of the instance where the trail begins. */
    private long start(Trail.Span span) {
        return span.start() - aheadNanos(span);
    }

    private long end(Trail.Span span) {
        return span.end() - aheadNanos(span);
    }

    private long aheadNanos(Trail.Span span) {
        return ahead.getOrDefault(span.where(), Duration.ZERO).toNanos();
    }

    private void cell(String text, int width) {
        String shown = text.length() > width ? text.substring(0, width - 1) + "…" : text;
        to.text(shown).spaces(width + 2 - shown.length());
    }

    private static String where(Event event) {
        String where = event.instance() != null ? event.instance() : event.service();
        return where == null ? "-" : Escapes.visible(where);
    }

    private static List<Row> rows(List<Trail.Span> spans, int depth) {
        List<Row> rows = new ArrayList<>();
        for (Trail.Span span : spans) {
            rows.add(new Row(span, "  ".repeat(depth) + label(span)));
            rows.addAll(rows(span.children(), depth + 1));
        }
        return rows;
    }

    /** Returns the name of the operation and, for HTTP, request and status. */
    static String label(Trail.Span span) {
        if (span.ending() == null) {
            return "(not ended)";
        }
        StringBuilder label = new StringBuilder(String.valueOf(span.name()));
        for (String field : List.of("method", "path", "status")) {
            Object value = span.ending().fields().get(field);
            if (value != null) {
                label.append(' ').append(value);
            }
        }
        return Escapes.visible(label.toString());
    }

    private record Row(Trail.Span span, String label) {}
}
