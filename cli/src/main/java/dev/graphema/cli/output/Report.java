package dev.graphema.cli.output;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.event.Event;
import dev.graphema.format.ClockText;
import dev.graphema.format.FailureText;
import dev.graphema.format.FieldText;
import dev.graphema.query.Ask;
import dev.graphema.query.EventSelection;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.answer.FailureKinds;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.answer.Timeline;
import dev.graphema.query.answer.Trail;
import dev.graphema.query.answer.Trails;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.text.Durations;
import dev.graphema.text.Times;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * An HTML page about the events that match a condition: when they occurred, their values, failures, one request, and
 * the newest events. It is one file without scripts that needs no network.
 */
public final class Report {
    private static final int STEPS = 60;
    private static final int EVENTS = 50;
    private static final int ROWS = 8;
    private static final int WIDTH = 1150;
    private static final int HEIGHT = 180;
    private static final List<String> TALLIED = List.of("service", "instance", "level", "message");

    private final EventSource logs;
    private final EventSelection selection;
    private final Condition wanted;
    private final Console console;
    private final ClockText clock;
    private final Html html = new Html();

    private Report(EventSource logs, EventSelection selection, Condition wanted, Console console) {
        this.logs = logs;
        this.selection = selection;
        this.wanted = wanted;
        this.console = console;
        this.clock = ClockText.dateAndTime(console.zone());
    }

    /**
     * Writes the page.
     *
     * @param wanted the condition as the user wrote it
     */
    public static void write(Path file, EventSource logs, EventSelection selection, Condition wanted, Console console)
            throws IOException {
        Report report = new Report(logs, selection, wanted, console);
        report.page();
        Files.writeString(file, report.html.toString());
    }

    private void page() throws IOException {
        FoundEvents newest = QueryExecutor.answer(selection.newest(EVENTS), logs);
        html.raw("<!doctype html>\n<html lang=\"en\"><head><meta charset=\"utf-8\">")
                .raw(
                        "<meta http-equiv=\"Content-Security-Policy\" content=\"default-src 'none'; style-src 'unsafe-inline'\">")
                .raw("<meta name=\"viewport\" content=\"width=device-width\"><title>")
                .text(title())
                .raw("</title><style>")
                .raw(style())
                .raw("</style></head><body><h1>")
                .text(title())
                .raw("</h1><p class=\"soft\">")
                .text(Counted.of(newest.matching(), "matching event") + "; " + Counted.read(newest.coverage())
                        + ". Made " + clock.text(Times.now()) + ", times of " + console.zone() + ".")
                .raw("</p>");
        timeline();
        tallies();
        faults();
        trail(newest);
        events(newest);
        html.raw("</body></html>\n");
    }

    private String title() {
        return wanted.isEverything() ? "All events" : wanted.toString();
    }

    private static String style() throws IOException {
        try (InputStream style = Report.class.getResourceAsStream("report.css")) {
            return new String(style.readAllBytes(), StandardCharsets.UTF_8);
        }
    }

    private void timeline() throws IOException {
        Timeline timeline = QueryExecutor.answer(
                selection.ask(new Ask.TimeSteps(STEPS, null, console.zone(), Name.of("service"), 4)), logs);
        if (timeline.steps().isEmpty()) {
            return;
        }
        html.raw("<h2>When</h2><p class=\"soft\">").text("Steps of " + Durations.text(timeline.step()) + ".");
        for (int i = 0; i < timeline.values().size(); i++) {
            html.raw("<span class=\"key s" + i + "\"></span>")
                    .text(timeline.values().get(i));
        }
        html.raw("<span class=\"key rest\"></span>others");
        html.raw(
                timeline.steps().stream().anyMatch(Timeline.Step::isSpike)
                        ? " <span class=\"bad\">▲ spike</span>"
                        : "");
        html.raw("</p>");
        chart(timeline);
    }

    private void chart(Timeline timeline) {
        int count = timeline.steps().size();
        double wide = (double) (WIDTH - 60) / count;
        long most =
                timeline.steps().stream().mapToLong(Timeline.Step::count).max().orElse(1);
        html.raw(String.format(
                Locale.ROOT,
                "<svg viewBox=\"0 0 %d %d\" role=\"img\" aria-label=\"events over time\">",
                WIDTH,
                HEIGHT + 40));
        html.raw(String.format(
                "<line class=\"axis\" x1=\"50\" x2=\"%d\" y1=\"%d\" y2=\"%d\"/>", WIDTH, HEIGHT + 15, HEIGHT + 15));
        html.raw("<text x=\"44\" y=\"24\" text-anchor=\"end\">")
                .text(Counted.number(most))
                .raw("</text>");
        html.raw("<text x=\"44\" y=\"" + (HEIGHT + 15) + "\" text-anchor=\"end\">0</text>");
        DateTimeFormatter form =
                DateTimeFormatter.ofPattern(timeline.step().toNanos() < 60_000_000_000L ? "HH:mm:ss" : "HH:mm");
        int every = Math.max(1, count / 12);
        for (int i = 0; i < count; i++) {
            Timeline.Step step = timeline.steps().get(i);
            double x = 50 + i * wide;
            stack(step, x, wide, most);
            if (i % every == 0) {
                Instant from = Times.instant(step.from());
                html.raw(String.format(Locale.ROOT, "<text x=\"%.1f\" y=\"%d\">", x, HEIGHT + 30))
                        .text(form.format(from.atZone(console.zone())))
                        .raw("</text>");
            }
        }
        html.raw("</svg>");
    }

    private void stack(Timeline.Step step, double x, double wide, long most) {
        double y = HEIGHT + 15;
        long told = 0;
        for (int i = 0; i <= step.byValue().size(); i++) {
            long part = i < step.byValue().size() ? step.byValue().get(i) : step.count() - told;
            told += part;
            double high = (double) part / most * HEIGHT;
            y -= high;
            if (part > 0) {
                html.raw(String.format(
                        Locale.ROOT,
                        "<rect class=\"%s\" x=\"%.1f\" y=\"%.1f\" width=\"%.1f\" height=\"%.1f\"/>",
                        i < step.byValue().size() ? "s" + i : "rest",
                        x,
                        y,
                        Math.max(1, wide - 1.5),
                        high));
            }
        }
        if (step.isSpike()) {
            html.raw(String.format(
                    Locale.ROOT, "<text class=\"bad\" x=\"%.1f\" y=\"%.1f\">▲</text>", x, Math.max(10, y - 3)));
        }
    }

    private void tallies() throws IOException {
        html.raw("<h2>What it is made of</h2><div class=\"columns\">");
        for (String name : TALLIED) {
            CountTable tally = QueryExecutor.answer(selection.counts(name), logs);
            html.raw("<table><tr><th>").text(name).raw("</th><th class=\"number\">events</th><th></th></tr>");
            for (CountTable.Row row : tally.rows().stream().limit(ROWS).toList()) {
                double share =
                        100.0 * row.events().count() / Math.max(1, tally.all().count());
                html.raw("<tr>")
                        .cell(
                                row.values().get(0) == null
                                        ? "(missing)"
                                        : row.values().get(0))
                        .number(row.events().count())
                        .raw(String.format(
                                Locale.ROOT,
                                "<td><span class=\"share\" style=\"width:%.0fpx\"></span> %.0f%%</td></tr>",
                                Math.max(1, share),
                                share));
            }
            html.raw("</table>");
        }
        html.raw("</div>");
    }

    private void faults() throws IOException {
        FailureKinds failures = QueryExecutor.answer(selection.ask(new Ask.Failures(40)), logs);
        if (failures.kinds().isEmpty()) {
            return;
        }
        html.raw(
                        "<h2>Failures</h2><table><tr><th class=\"number\">times</th><th>failure</th><th>where</th><th>first</th>")
                .raw("<th>last</th><th>course</th></tr>");
        for (FailureKinds.Kind fault : failures.kinds().stream().limit(20).toList()) {
            Event example = fault.example();
            html.raw("<tr>")
                    .number(fault.count())
                    .raw("<td><span class=\"bad\">")
                    .text(example.failure().type());
            html.raw("</span><br>")
                    .text(
                            example.failure().message() == null
                                    ? ""
                                    : example.failure().message());
            if (!example.failure().frames().isEmpty()) {
                html.raw("<br><code>at ")
                        .text(example.failure().frames().get(0))
                        .raw("</code>");
            }
            html.raw("</td>")
                    .cell(String.join(", ", fault.where().stream().sorted().toList()))
                    .cell(clock.text(fault.first()))
                    .cell(clock.text(fault.last()))
                    .raw("<td>");
            course(fault.course());
            html.raw("</td></tr>");
        }
        html.raw("</table>");
    }

    private void course(List<Long> course) {
        long most = course.stream().mapToLong(Long::longValue).max().orElse(1);
        html.raw("<svg viewBox=\"0 0 160 24\" style=\"width:160px\" role=\"img\" aria-label=\"course\">");
        for (int i = 0; i < course.size(); i++) {
            double high = 22.0 * course.get(i) / Math.max(1, most);
            html.raw(String.format(
                    Locale.ROOT,
                    "<rect class=\"s0\" x=\"%d\" y=\"%.1f\" width=\"3\" height=\"%.1f\"/>",
                    i * 4,
                    23 - high,
                    high));
        }
        html.raw("</svg>");
    }

    /** Returns the newest trace with a failure, or else the newest of all. */
    private void trail(FoundEvents newest) throws IOException {
        List<Event> traced =
                newest.events().stream().filter(event -> event.trace() != null).toList();
        List<Event> failed =
                traced.stream().filter(event -> event.failure() != null).toList();
        List<Event> chosen = failed.isEmpty() ? traced : failed;
        if (chosen.isEmpty()) {
            return;
        }
        Trails found = QueryExecutor.answer(
                selection
                        .where(Condition.EVERYTHING)
                        .trail(chosen.get(chosen.size() - 1).trace().toString()),
                logs);
        if (found.trails().isEmpty()) {
            return;
        }
        Trail trail = found.trails().get(0);
        html.raw("<h2>One request</h2><p class=\"soft\">Trace <code>")
                .text(trail.name())
                .raw("</code>, ");
        html.text(String.join(", ", trail.services())).raw("</p><table>");
        html.raw("<tr><th>operation</th><th>where</th><th class=\"number\">took</th><th></th></tr>");
        Map<String, Duration> ahead = trail.clocksAhead();
        spans(trail.roots(), 0, trail, ahead);
        html.raw("</table>");
        trail.firstFailure()
                .ifPresent(event ->
                        html.raw("<pre>").text(FailureText.of(event.failure())).raw("</pre>"));
    }

    private void spans(List<Trail.Span> spans, int depth, Trail trail, Map<String, Duration> ahead) {
        long length = Math.max(1, trail.end() - trail.start());
        for (Trail.Span span : spans) {
            long from = span.start()
                    - ahead.getOrDefault(span.where(), Duration.ZERO).toNanos()
                    - trail.start();
            double left = Math.max(0, Math.min(99, 100.0 * from / length));
            double wide = span.elapsed() == null
                    ? 1
                    : Math.max(0.5, 100.0 * span.elapsed().toNanos() / length);
            html.raw("<tr><td style=\"padding-left:" + depth * 18 + "px\"" + (span.failed() ? " class=\"bad\">" : ">"))
                    .text(TrailText.label(span))
                    .raw("</td>")
                    .cell(span.where())
                    .raw("<td class=\"number\">")
                    .text(span.elapsed() == null ? "not ended" : Durations.text(span.elapsed()))
                    .raw(String.format(
                            Locale.ROOT,
                            "</td><td style=\"width:45%%\"><svg viewBox=\"0 0 100 4\" preserveAspectRatio=\"none\" style=\"height:12px\"><rect class=\"%s\""
                                    + " x=\"%.2f\" y=\"0\" width=\"%.2f\" height=\"4\"/></svg></td></tr>",
                            span.failed() ? "bad" : "s0",
                            left,
                            Math.min(wide, 100 - left)));
            spans(span.children(), depth + 1, trail, ahead);
        }
    }

    private void events(FoundEvents newest) {
        html.raw("<h2>The newest events</h2><table><tr><th>time</th><th>level</th><th>where</th><th>message</th></tr>");
        for (Event event : newest.events()) {
            String level = event.level() == null ? "" : event.level().text();
            html.raw("<tr class=\"" + level + "\"><td class=\"mono\">")
                    .text(clock.text(event.epochNanos()))
                    .raw("</td>")
                    .cell(level)
                    .raw("<td class=\"where\">")
                    .text(event.instance() != null ? event.instance() : String.valueOf(event.service()))
                    .raw("</td><td>")
                    .text(event.message() == null ? "" : event.message())
                    .raw(" <code class=\"soft\">");
            for (FieldText.Pair pair : FieldText.of(event.fields())) {
                html.text(pair.name() + "=" + pair.value() + " ");
            }
            html.raw("</code></td></tr>");
        }
        html.raw("</table>");
    }
}
