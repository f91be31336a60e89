package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.input.InputOptions;
import dev.graphema.cli.output.Counted;
import dev.graphema.cli.output.EventPrinter;
import dev.graphema.cli.output.Shell;
import dev.graphema.cli.output.Table;
import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.event.Level;
import dev.graphema.format.ClockText;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.answer.Timeline;
import dev.graphema.text.Durations;
import dev.graphema.text.Escapes;
import dev.graphema.text.Times;
import dev.graphema.text.Utf8Buffer;
import java.io.IOException;
import java.time.Duration;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;

/** Counts events over time. */
public final class TimelineVerb extends FindingVerb {
    private static final int MOST_STEPS = 40;
    private static final int USUAL_WIDTH = 100;
    private static final String[] FILLS = {"█", "▓", "▒", "░"};

    private final Argument<String> condition = own().condition("Which events, for example: level >= error.");
    private final Argument<String> split = own().text("--by", "FIELD", "Split each step by values of a field.");
    private final Argument<String> step = own().text(
                    "--step",
                    "DURATION",
                    "The length of a step: 1m, 15m, 1h. Default: the shortest with at most " + MOST_STEPS + " steps.");
    private final Argument<Table.Form> form = form();

    public TimelineVerb() {
        super("timeline", "Counts events by time, draws them, and marks spikes.");
    }

    @Override
    protected String details() {
        return "A spike is a step with far more events than usual.";
    }

    @Override
    protected String examples() {
        return """
                graphema timeline 'level >= error' --in logs --by service
                graphema timeline 'message = request and status >= 500' --in logs --step 5m --from 06:00 --to 09:00
                """;
    }

    @Override
    public Question<Timeline> question() throws IOException, MisuseException {
        Duration given = step.isGiven() ? InputOptions.duration("--step", step.value()) : null;
        Name by = split.isGiven() ? Name.of(split.value()) : null;
        return selection(condition(condition.value()))
                .ask(new Ask.TimeSteps(MOST_STEPS, given, input().zone(), by, FILLS.length));
    }

    @Override
    public int call() throws IOException, MisuseException {
        Condition wanted = condition(condition.value());
        Timeline timeline = answer(question());
        complain(timeline.coverage());
        if (timeline.steps().isEmpty()) {
            return nothing(wanted, timeline.coverage());
        }
        if (form.value() == Table.Form.text) {
            draw(timeline);
            summary(timeline, wanted);
        } else if (form.value() == Table.Form.json) {
            printJson(timeline, Integer.MAX_VALUE);
        } else {
            table(timeline).print(form.value(), out());
        }
        return 0;
    }

    private Table table(Timeline timeline) {
        List<String> names = new ArrayList<>(List.of("from", "count"));
        timeline.values().forEach(value -> names.add(split.value() + " = " + value));
        names.add("spike");
        Table table = new Table(names);
        for (Timeline.Step each : timeline.steps()) {
            List<Object> row =
                    new ArrayList<>(List.of(Times.instant(each.from()).toString(), each.count()));
            row.addAll(timeline.values().isEmpty() ? List.of() : each.byValue());
            row.add(each.isSpike() ? "yes" : "");
            table.row(row);
        }
        return table;
    }

    private void draw(Timeline timeline) {
        Utf8Buffer to = new Utf8Buffer(4096);
        legend(timeline, to);
        long most =
                timeline.steps().stream().mapToLong(Timeline.Step::count).max().orElse(1);
        int countWidth = Math.max(5, count(most, timeline).length());
        ZoneId zone = out().zone();
        ClockText clock = ClockText.timeOfDay(zone);
        int clockWidth = clockWidth(timeline);
        int width = out().width() == 0 ? USUAL_WIDTH : out().width();
        int barWidth = Math.max(10, Math.min(100, width - countWidth - 30));
        long endOfDay = Long.MIN_VALUE;
        for (Timeline.Step each : timeline.steps()) {
            if (each.from() >= endOfDay) {
                LocalDate day = Times.instant(each.from()).atZone(zone).toLocalDate();
                endOfDay = Times.epochNanos(day.plusDays(1).atStartOfDay(zone).toInstant());
                out().paint().faint(to, "-- " + EventPrinter.day(each.from(), zone));
                to.ascii('\n');
            }
            String count = count(each.count(), timeline);
            to.text(clock.text(each.from()).substring(0, clockWidth))
                    .spaces(countWidth - count.length() + 2)
                    .text(count)
                    .ascii("  ");
            bar(each, timeline, most, barWidth, to);
            if (each.isSpike()) {
                out().paint().of(Level.ERROR, to, " ◀ spike");
            }
            to.ascii('\n');
        }
        out().print(to);
    }

    private void legend(Timeline timeline, Utf8Buffer to) {
        if (timeline.values().isEmpty()) {
            return;
        }
        to.text(split.value()).ascii(": ");
        for (int i = 0; i < timeline.values().size(); i++) {
            to.text(FILLS[i])
                    .ascii(' ')
                    .text(Escapes.visible(timeline.values().get(i)))
                    .ascii("   ");
        }
        to.text("· all others\n");
    }

    private static void bar(Timeline.Step step, Timeline timeline, long most, int width, Utf8Buffer to) {
        double perCell = (double) most / width;
        if (timeline.values().isEmpty()) {
            to.repeated("█", cells(step.count(), perCell));
            return;
        }
        int drawn = 0;
        long counted = 0;
        for (int i = 0; i < step.byValue().size(); i++) {
            counted += step.byValue().get(i);
            int until = cells(counted, perCell);
            to.repeated(FILLS[i], until - drawn);
            drawn = Math.max(drawn, until);
        }
        to.repeated("·", cells(step.count(), perCell) - drawn);
    }

    private static int cells(long count, double perCell) {
        return count == 0 ? 0 : (int) Math.max(1, Math.round(count / perCell));
    }

    private static String count(long count, Timeline timeline) {
        return (timeline.isEstimate() ? "~" : "") + Counted.number(count);
    }

    /** The length of the part of {@code 07:31:02.123} that distinguishes steps. */
    private static int clockWidth(Timeline timeline) {
        long nanos = timeline.step().toNanos();
        return (nanos < 1_000_000_000L ? "07:31:02.123" : nanos % 60_000_000_000L == 0 ? "07:31" : "07:31:02").length();
    }

    private void summary(Timeline timeline, Condition wanted) {
        out().note(Counted.of(timeline.steps().size(), "step") + " of " + Durations.text(timeline.step()) + "; "
                + Counted.read(timeline.coverage()));
        timeline.steps().stream()
                .filter(Timeline.Step::isSpike)
                .reduce((one, other) -> other.count() > one.count() ? other : one)
                .ifPresent(spike -> {
                    String during = Shell.quoted(Times.instant(spike.from()) + "/" + timeline.step());
                    out().note("to see what the highest spike is made of: " + out().command()
                            + " tally service,instance" + argument(wanted) + " --during " + during
                            + input().againAnytime());
                    String quiet = beside(timeline, spike);
                    if (quiet != null) {
                        out().note("to see what changed in it: " + out().command() + " contrast --during " + during
                                + " --against " + Shell.quoted(quiet) + input().againAnytime());
                    }
                });
    }

    /**
     * Returns a time to compare a spike with: the time before it, at most four steps, or else after it; null if there
     * are only spikes.
     */
    private static String beside(Timeline timeline, Timeline.Step spike) {
        List<Timeline.Step> steps = timeline.steps();
        int at = steps.indexOf(spike);
        int end = at;
        while (end > 0 && steps.get(end - 1).isSpike()) {
            end--;
        }
        if (end > 0) {
            int begin = Math.max(0, end - 4);
            return Times.instant(steps.get(begin).from()) + "/"
                    + timeline.step().multipliedBy(end - begin);
        }
        int begin = at;
        while (begin < steps.size() && steps.get(begin).isSpike()) {
            begin++;
        }
        int count = Math.min(4, steps.size() - begin);
        return count == 0
                ? null
                : Times.instant(steps.get(begin).from()) + "/" + timeline.step().multipliedBy(count);
    }
}
