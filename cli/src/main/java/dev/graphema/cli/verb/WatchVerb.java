package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.input.InputOptions;
import dev.graphema.cli.output.Counted;
import dev.graphema.cli.output.EventView;
import dev.graphema.query.Question;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.Following;
import java.io.IOException;
import java.util.concurrent.TimeUnit;

/** Shows events as they are written. */
public final class WatchVerb extends FindingVerb {
    private static final long EVERY_MILLIS = 200;

    private final Argument<String> condition = own().condition("Which events, for example: level >= warn.");
    private final Argument<String> time = own().text("--for", "DURATION", "Stop after this time: 10m. Default: never.");
    private final Argument<Integer> before =
            own().count("--before", 5, "Start with the newest N existing events. Default: 5.");
    private final ViewOptions shown = new ViewOptions(own());

    public WatchVerb() {
        super("watch", "Shows events as they are written.");
    }

    @Override
    protected String details() {
        return "Shows new events that match a condition, in all files and across rotation, until Ctrl-C.";
    }

    @Override
    protected String examples() {
        return """
                graphema watch 'level >= warn' --in logs
                graphema watch 'service = deck and lock_wait_ms > 200ms' --in logs --for 10m --as json
                """;
    }

    @Override
    public Question<FoundEvents> question() throws IOException, MisuseException {
        return selection(condition(condition.value())).newest(before.value());
    }

    @Override
    public int call() throws IOException, MisuseException {
        if (input().readsStandardInput()) {
            throw new MisuseException("standard input is shown live by find --in -: expected files or folders");
        }
        long until = !time.isGiven()
                ? Long.MAX_VALUE
                : System.nanoTime()
                        + InputOptions.duration("--for", time.value()).toNanos();
        EventView view = shown.view(out());
        long[] shown = {0};
        Question<FoundEvents> newest = question();
        EventSource logs = logs();
        try (Following following = logs.follow(newest.where())) {
            if (before.value() > 0) {
                answer(newest).events().forEach(view::show);
                view.end();
            }
            while (!out().stop().getAsBoolean() && System.nanoTime() < until) {
                following.poll(event -> {
                    view.show(event);
                    shown[0]++;
                });
                view.end();
                TimeUnit.MILLISECONDS.sleep(EVERY_MILLIS);
            }
            complain(following.coverage());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        out().note(Counted.of(shown[0], "new event"));
        return shown[0] > 0 ? 0 : NOTHING;
    }
}
