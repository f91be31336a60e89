package dev.graphema.cli.verb;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.collector.LocalPage;
import dev.graphema.query.Question;
import dev.graphema.query.answer.FoundEvents;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.TimeUnit;

/** Serves the page over any logs, for one browser on this machine, until it is interrupted. */
public final class PageVerb extends FindingVerb {
    private static final int SHOWN = 50;
    private static final long EVERY_MILLIS = 100;

    private final Argument<String> condition =
            own().condition("The first question of the page, for example: level >= error.");
    private final Argument<Integer> port = own().count("--port", 0, "The port. Default: any free one.");

    public PageVerb() {
        super("page", "Opens the page of the collector over any logs, without a collector.");
    }

    @Override
    protected String details() {
        return "Prints an address for a browser on this machine. It works once: nobody else can use it afterwards. The page ends when"
                + " the command is interrupted.";
    }

    @Override
    protected String examples() {
        return """
                graphema page --in logs
                graphema page 'level >= error' --in logs --last 2h
                """;
    }

    @Override
    public Question<FoundEvents> question() throws IOException, MisuseException {
        return selection(condition(condition.value())).newest(SHOWN);
    }

    @Override
    public int call() throws IOException, InterruptedException, MisuseException {
        if (input().readsStandardInput()) {
            throw new MisuseException("--in - can be read only once, and a page reads many times: expected files");
        }
        question();
        Path kept = KeptQuestions.folder("XDG_CONFIG_HOME", ".config").resolve("page");
        Files.createDirectories(kept);
        try (LocalPage page = LocalPage.start(logs(), port.value(), kept, console()::note)) {
            console().note("open in a browser, once:");
            console().print(page.address(typed()).toString());
            while (!console().stop().getAsBoolean()) {
                TimeUnit.MILLISECONDS.sleep(EVERY_MILLIS);
            }
        }
        return 0;
    }

    /** Returns the question as it is typed in the page. */
    private String typed() {
        return (condition.isGiven() ? condition.value() + " " : "") + input().typedWindow();
    }
}
