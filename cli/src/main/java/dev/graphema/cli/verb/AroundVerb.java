package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.output.EventView;
import dev.graphema.condition.Condition;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.answer.EventContext;
import dev.graphema.query.typed.TimeWords;
import dev.graphema.text.Times;
import dev.graphema.text.Utf8Buffer;
import java.io.IOException;
import java.time.Instant;

/** Shows the events before and after an event. */
public final class AroundVerb extends FindingVerb {
    private final Argument<String> which =
            own().word("CONDITION|TIME", "A condition that the event matches, or a time.");
    private final Argument<Integer> count =
            own().count("--show", 10, "How many events before it, and how many after it. Default: 10.");
    private final Argument<String> only = own().text(
                    "--only",
                    "CONDITION",
                    "A condition for the events around it, such as those of one service. Default: all.");
    private final ViewOptions shown = new ViewOptions(own());

    public AroundVerb() {
        super("around", "Shows the events before and after an event.");
    }

    @Override
    protected String details() {
        return "The event is the first that matches a condition, or the first from a time on; the events around it are"
                + " from all logs, in the order of time.";
    }

    @Override
    protected String examples() {
        return """
                graphema around 'instance = deck-2 and sequence = 812' --in logs
                graphema around 2026-05-15T07:31:02 --in logs --show 20 --only 'service = deck'
                """;
    }

    @Override
    public Question<EventContext> question() throws IOException, MisuseException {
        Condition wanted = wanted();
        Condition among =
                !only.isGiven() ? Condition.EVERYTHING : condition("(" + only.value() + ") or (" + wanted + ")");
        return selection(among).ask(new Ask.ContextOf(wanted, count.value()));
    }

    private Condition wanted() {
        Long moment = new TimeWords(out().zone(), Instant.now()).moment(which.value());
        return moment == null ? condition(which.value()) : condition("time >= " + Times.instant(moment));
    }

    @Override
    public int call() throws IOException, MisuseException {
        EventContext around = answer(question());
        complain(around.coverage());
        if (around.event() == null) {
            return nothing(wanted(), around.coverage());
        }
        EventView view = shown.view(out());
        around.before().forEach(view::show);
        mark(view, true);
        view.show(around.event());
        mark(view, false);
        around.after().forEach(view::show);
        view.end();
        if (shown.isText() && around.event().trace() != null) {
            next("to follow its request alone", "trail " + around.event().trace());
        }
        return 0;
    }

    /** Marks the event, not only by colour. */
    private void mark(EventView view, boolean above) {
        if (shown.isText()) {
            view.end();
            Utf8Buffer line = new Utf8Buffer(64);
            out().paint().strong(line, above ? "──▼── the event" : "──▲──");
            out().print(line.ascii('\n'));
        }
    }
}
