package dev.graphema.cli;

import dev.graphema.condition.Condition;
import dev.graphema.query.Follower;
import java.io.IOException;
import java.util.concurrent.TimeUnit;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Shows events as they are written. */
@Command(
        name = "watch",
        mixinStandardHelpOptions = true,
        synopsisHeading = "Usage: ",
        description =
                "Shows the events for which a condition holds while they are written, in all files and across rotation, until Ctrl-C.",
        footer = {
            "",
            "Examples:",
            "  graphema watch 'level >= warn' --in logs",
            "  graphema watch 'service = deck and lock_wait_ms > 200ms' --in logs --for 10m --as json"
        })
public final class WatchVerb extends FindingVerb {
    private static final long EVERY_MILLIS = 200;

    @Parameters(arity = "0..1", paramLabel = "CONDITION", description = "Which events, for example: level >= warn")
    private String condition = "";

    @Option(names = "--for", paramLabel = "DURATION", description = "Stop after that time: 10m. Default: never.")
    private String time;

    @Option(
            names = "--before",
            paramLabel = "N",
            description = "Begin with the newest N events that are there already. Default: 5.")
    private int before = 5;

    @Mixin
    private ViewOptions shown = new ViewOptions();

    @Override
    public Integer call() throws IOException, MisuseException {
        if (input().readsStandardInput()) {
            throw new MisuseException("standard input is shown live by find --in -: expected files or folders");
        }
        Condition wanted = condition(condition);
        long until = time == null
                ? Long.MAX_VALUE
                : System.nanoTime() + InputOptions.duration("--for", time).toNanos();
        EventView view = shown.view(out());
        long[] shown = {0};
        try (Follower follower = new Follower(input().paths(), input().shape(), wanted)) {
            if (before > 0) {
                logs(wanted).newest(before).events().forEach(view::show);
                view.end();
            }
            while (!out().stop().getAsBoolean() && System.nanoTime() < until) {
                follower.poll(event -> {
                    view.show(event);
                    shown[0]++;
                });
                view.end();
                TimeUnit.MILLISECONDS.sleep(EVERY_MILLIS);
            }
            complain(follower.reading());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        out().say(Counted.of(shown[0], "new event"));
        return shown[0] > 0 ? 0 : Main.NOTHING;
    }
}
