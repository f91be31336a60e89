package dev.graphema.cli;

import dev.graphema.condition.Condition;
import dev.graphema.event.Times;
import dev.graphema.format.Utf8Buffer;
import dev.graphema.query.Around;
import dev.graphema.query.TimeWords;
import java.io.IOException;
import java.time.Instant;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Shows what was said before and after an event. */
@Command(
        name = "around",
        mixinStandardHelpOptions = true,
        synopsisHeading = "Usage: ",
        description =
                "Shows the first event that meets a condition, or the first from a moment on, with whatever was said before and"
                        + " after it in all the logs, by time.",
        footer = {
            "",
            "Examples:",
            "  graphema around 'instance = deck-2 and sequence = 812' --in logs",
            "  graphema around 2026-05-15T07:31:02 --in logs --show 20 --only 'service = deck'"
        })
public final class AroundVerb extends FindingVerb {
    @Parameters(paramLabel = "CONDITION|TIME", description = "Which event: a condition, or a moment")
    private String which;

    @Option(
            names = "--show",
            paramLabel = "N",
            description = "How many events before it, and how many after it. Default: 10.")
    private int count = 10;

    @Option(
            names = "--only",
            paramLabel = "CONDITION",
            description = "Which events are shown around it, such as those of one service. Default: all.")
    private String only = "";

    @Mixin
    private ViewOptions shown = new ViewOptions();

    @Override
    public Integer call() throws IOException, MisuseException {
        if (count < 0) {
            throw new MisuseException("--show " + count + ": expected a number from 0 up");
        }
        Long moment = new TimeWords(out().zone(), Instant.now()).moment(which);
        Condition wanted = moment == null ? condition(which) : condition("time >= " + Times.instant(moment));
        Condition among = only.isEmpty() ? Condition.EVERYTHING : condition("(" + only + ") or (" + wanted + ")");
        Around around = Around.of(logs(among), wanted, count);
        complain(around.reading());
        if (around.event() == null) {
            return nothing(around.reading());
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

    /** Sets the event apart, by more than its colour. */
    private void mark(EventView view, boolean above) {
        if (shown.isText()) {
            view.end();
            Utf8Buffer line = new Utf8Buffer(64);
            out().paint().strong(line, above ? "──▼── the event" : "──▲──");
            out().print(line.ascii('\n'));
        }
    }
}
