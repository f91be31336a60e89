package dev.graphema.cli;

import dev.graphema.event.Durations;
import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.event.Level;
import dev.graphema.format.Escapes;
import dev.graphema.format.Paint;
import dev.graphema.format.Utf8Buffer;
import dev.graphema.query.Trail;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/**
 * The head of a trail: what it was, what failed first, and its operations as a tree with a bar for each that shows when it
 * ran.
 */
final class TrailText {
    private static final int USUAL_WIDTH = 120;
    private static final int WHERE_WIDTH = 9;
    private static final int TOOK_WIDTH = 8;

    private final Trail trail;
    private final Paint paint;
    private final int nameWidth;
    private final int barWidth;
    private final long start;
    private final long length;
    private final Utf8Buffer to = new Utf8Buffer(4096);

    TrailText(Trail trail, Console console) {
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
        this.start = trail.start();
        this.length = Math.max(1, trail.end() - start);
    }

    Utf8Buffer toBuffer() {
        head();
        firstFailure();
        to.ascii('\n');
        operations();
        to.ascii('\n');
        return to;
    }

    private void head() {
        to.ascii("trace ").ascii(trail.trace().toString()).ascii(": ");
        to.text(Counted.of(trail.events().size(), "event")).ascii(", ");
        to.text(Durations.text(Duration.ofNanos(trail.end() - start))).ascii(", ");
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
        int from = (int) ((span.start() - start) * barWidth / length);
        int until = span.elapsed() == null
                ? from + 1
                : (int) Math.ceil((span.start() + span.elapsed().toNanos() - start) * (double) barWidth / length);
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

    /** The operation's name and, for HTTP, what was asked and answered. */
    private static String label(Trail.Span span) {
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
