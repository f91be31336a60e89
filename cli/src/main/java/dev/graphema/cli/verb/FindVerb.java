package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.output.Counted;
import dev.graphema.cli.output.EventPrinter;
import dev.graphema.cli.output.EventView;
import dev.graphema.cli.output.Report;
import dev.graphema.cli.output.Shell;
import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.query.EventSelection;
import dev.graphema.query.Question;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.source.Following;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.text.Escapes;
import java.io.IOException;
import java.nio.file.Path;

/** Shows the events that match a condition. */
public final class FindVerb extends FindingVerb {
    private static final int USUAL_LIMIT = 100;

    private final Argument<String> condition =
            own().condition("Which events, for example: level >= warn and service = deck.");
    private final Argument<Integer> limit = own().count(
                    "--limit",
                    null,
                    "Show the newest N events, or the oldest with --oldest; 0 for all. Default: " + USUAL_LIMIT
                            + " as text or table, all as json or csv.");
    private final Argument<Boolean> oldest = own().flag("--oldest", "Show the oldest events instead of the newest.");
    private final Argument<Boolean> byPosition = own().flag(
                    "--by-position",
                    "Order events by file and position in it instead of time; --oldest then means the first.");
    private final Argument<Boolean> whole = own().flag("--whole", "Show all values of an event, each as a condition.");
    private final ViewOptions shown = new ViewOptions(own());
    private final Argument<Path> report =
            own().path("--report", "FILE", "Also write an HTML page with a timeline, counts, failures and a trail.");

    public FindVerb() {
        super("find", "Shows the events that match a condition.");
    }

    @Override
    protected String details() {
        return "The oldest are shown first. Without a condition, all events match.";
    }

    @Override
    protected String examples() {
        return """
                graphema find 'level >= warn and service = deck' --in logs --last 15m
                graphema find '"lane not free" and lock_wait_ms > 200' --in logs --as json

                One event, every value as a condition:
                graphema find 'status >= 500' --in logs --whole --limit 1

                A running program's log, readably:
                deck-service | graphema find --in -
                """;
    }

    @Override
    public Question<FoundEvents> question() throws IOException, MisuseException {
        EventSelection selection = selection(condition(condition.value()));
        if (byPosition.value()) {
            return oldest.value() ? selection.first(most()) : selection.last(most());
        }
        return oldest.value() ? selection.oldest(most()) : selection.newest(most());
    }

    /** Returns the most events to show. */
    private int most() {
        return limit.isGiven() ? limit(limit.value()) : shown.isForPeople() ? USUAL_LIMIT : Integer.MAX_VALUE;
    }

    @Override
    public int call() throws IOException, MisuseException {
        int most = most();
        Condition wanted = condition(condition.value());
        boolean isLive = input().readsStandardInput()
                && !limit.isGiven()
                && shown.isText()
                && !shown.hasColumns()
                && !byPosition.value();
        if (isLive) {
            return live(wanted);
        }
        EventSelection selection = selection(wanted);
        boolean isInOrder = !byPosition.value() && (oldest.value() || most == Integer.MAX_VALUE);
        Outcome outcome = isInOrder ? first(selection, most) : kept(question());
        complain(outcome.coverage);
        if (outcome.matching == 0) {
            return nothing(wanted, outcome.coverage);
        }
        if (shown.isForPeople() || outcome.shown < outcome.matching) {
            summary(outcome, wanted);
        }
        if (report.isGiven()) {
            report(selection, wanted);
        }
        return 0;
    }

    private EventView view() {
        return whole.value() && shown.isForPeople() ? EventView.whole(out()) : shown.view(out());
    }

    private Outcome kept(Question<FoundEvents> question) throws IOException, MisuseException {
        FoundEvents newest = answer(question);
        EventView view = view();
        newest.events().forEach(view::show);
        view.end();
        Event failed = newest.events().stream()
                .filter(FindVerb::hasFailure)
                .findFirst()
                .orElse(null);
        Event last = newest.events().isEmpty()
                ? null
                : newest.events().get(newest.events().size() - 1);
        return new Outcome(newest.events().size(), newest.matching(), newest.coverage(), failed, last);
    }

    private Outcome first(EventSelection selection, int most) throws IOException, MisuseException {
        EventView view = view();
        boolean mayReadAgain = !input().readsStandardInput();
        long[] count = {0};
        Event[] selected = {null, null};
        Coverage coverage = QueryExecutor.read(selection, logs(), progress(), event -> {
            count[0]++;
            if (count[0] <= most) {
                view.show(event);
                selected[1] = event;
                if (selected[0] == null && hasFailure(event)) {
                    selected[0] = event;
                }
            }
            return count[0] <= most || !mayReadAgain;
        });
        view.end();
        if (count[0] > most && mayReadAgain) {
            // How many there are is found out by all processors, and without reading events as a whole.
            FoundEvents all = answer(selection.newest(1));
            return new Outcome(most, all.matching(), all.coverage(), selected[0], selected[1]);
        }
        return new Outcome(Math.min(count[0], most), count[0], coverage, selected[0], selected[1]);
    }

    /** Shows events as they arrive, and other lines. */
    private int live(Condition wanted) throws IOException, MisuseException {
        EventView view = view();
        long[] count = {0};
        Following.Listener listener = new Following.Listener() {
            @Override
            public void event(Event event) {
                view.show(event);
                count[0]++;
            }

            @Override
            public void foreign(String line) {
                view.end();
                out().print(Escapes.visible(line));
            }
        };
        try (Following following = logs().follow(selection(wanted).where())) {
            while (following.poll(listener)) {
                view.end();
            }
            view.end();
        }
        return count[0] > 0 ? 0 : NOTHING;
    }

    private void report(EventSelection selection, Condition wanted) throws IOException, MisuseException {
        if (input().readsStandardInput()) {
            throw new MisuseException("--in - can be read only once, and a report reads several times: expected files");
        }
        Report.write(report.value(), logs(), selection, wanted, out());
        out().note("the report is in " + report.value() + ": open it in a browser");
    }

    private static boolean hasFailure(Event event) {
        return event.trace() != null && event.level() != null && event.level().passes(Level.WARN);
    }

    private void summary(Outcome outcome, Condition wanted) {
        String order = byPosition.value() ? oldest.value() ? "first" : "last" : oldest.value() ? "oldest" : "newest";
        out().note(
                        outcome.shown < outcome.matching
                                ? "the " + order + " " + Counted.number(outcome.shown) + " of "
                                        + Counted.of(outcome.matching, "matching event") + ", "
                                        + Counted.read(outcome.coverage)
                                        + "; --limit 0 shows all"
                                : Counted.of(outcome.matching, "matching event") + ", "
                                        + Counted.read(outcome.coverage));
        if (!shown.isText()) {
            return;
        }
        Event shown = outcome.failed != null ? outcome.failed : outcome.last;
        if (outcome.failed != null) {
            next("to follow a request", "trail " + outcome.failed.trace());
        }
        if (outcome.matching == 1 && shown != null) {
            next("to see the events around it", "around " + Shell.quoted(EventPrinter.conditionOf(shown)));
        } else if (outcome.matching > outcome.shown) {
            next("to see when they came", "timeline" + argument(wanted));
        }
    }

    private record Outcome(long shown, long matching, Coverage coverage, Event failed, Event last) {}
}
